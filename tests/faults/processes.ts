import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { bundle, bundleEntries } from '../../scripts/setup.mjs'
import { freePort, root } from '../browser/tally'

export const temporaryFolder = () => mkdtempSync(join(tmpdir(), 'north-tally-fault-'))
export const pause = (ms: number) => new Promise((done) => setTimeout(done, ms))
export { freePort }

/** Bundles the product's processes and the given helpers beside them. */
export async function prepare(helpers: Record<string, string> = {}): Promise<void> {
	await bundle()
	if (Object.keys(helpers).length > 0) await bundleEntries(helpers)
}

export type Running = { child: ChildProcess; kill: (signal: NodeJS.Signals) => Promise<void> }

/** Starts one of the bundled processes on the books in `data`, and waits until it says that it is ready. */
export function startProcess(name: 'runner' | 'practice', data: string, smtpPort: number): Promise<Running> {
	const child = spawn(process.execPath, [join(root, 'dist', `${name}.mjs`)], {
		cwd: root,
		env: { ...process.env, NORTH_TALLY_ROOT: root, NORTH_TALLY_DATA: data, NORTH_TALLY_SMTP_PORT: String(smtpPort) },
		stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
	})
	const running = asRunning(child)
	return new Promise((done, fail) => {
		child.once('message', () => done(running))
		child.once('exit', (code, signal) => fail(new Error(`${name} ended with ${code ?? signal} before it was ready`)))
	})
}

/** Starts the web for production. */
export function startWeb(data: string, port: number): Running {
	return asRunning(
		spawn(
			process.execPath,
			[join(root, 'node_modules/next/dist/bin/next'), 'start', '-H', '127.0.0.1', '-p', String(port)],
			{
				cwd: root,
				env: { ...process.env, NODE_ENV: 'production', NORTH_TALLY_ROOT: root, NORTH_TALLY_DATA: data },
				stdio: 'ignore',
			},
		),
	)
}

function asRunning(child: ChildProcess): Running {
	const ended = new Promise<void>((done) => child.once('exit', () => done()))
	return {
		child,
		kill: (signal) => {
			child.kill(signal)
			return ended
		},
	}
}

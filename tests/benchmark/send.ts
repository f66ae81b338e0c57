import { spawn } from 'node:child_process'
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { createTransport } from 'nodemailer'
import Piscina from 'piscina'
import { doJob, type Shop } from '@/runner/work'
import { startRun } from '@/runs/bench/steps'
import { rawOf, writeMessages } from '@/runs/send/send'
import { askFor, latestJob, nextJob, type Step } from '@/store/jobs'
import type { MadeFile } from '@/store/made'
import { waitingMessages } from '@/store/messages'
import { changeSettings, readSettings } from '@/store/settings'
import { benchBooks, benchDesk, benchNow } from './books'

// Made invoices to the practice server, a process of its own: by the runner's own code, with every mark and answer on disk; beside a bare
// pool of nodemailer over as many lines, which is given the finished bytes and notes nothing.

const count = Number(process.argv[2] ?? 3000)
const smtpPort = 47_480 + (process.pid % 500)
const books = benchBooks(count)
const practice = spawn(
	process.execPath,
	[
		...(process.env.PROF ? ['--cpu-prof', '--cpu-prof-dir=/tmp/prof/p'] : []),
		join(import.meta.dirname, 'practice.mjs'),
	],
	{
		env: { ...process.env, NORTH_TALLY_DATA: books.folder, NORTH_TALLY_SMTP_PORT: String(smtpPort) },
		stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
	},
)
await new Promise((done) => practice.once('message', done))
const pool = new Piscina<never, MadeFile[]>({ filename: join(import.meta.dirname, 'makeWorker.mjs'), maxThreads: 2 })
const shop: Shop = {
	...{ books, now: benchNow, makers: 2, practicePort: smtpPort },
	makeBatch: (batch) => pool.run(batch as never),
}
const started = startRun(books, benchDesk, '2026-10-31', '2026-10-31')
if (!started.ok || !started.id) throw new Error('The run did not start.')
const run = started.id
const step = async (name: Step): Promise<number> => {
	if (name !== 'gather') askFor(books, benchDesk, { kind: name, run, expected: count })
	const job = nextJob(books)
	if (!job) throw new Error(`No job for ${name}.`)
	const from = performance.now()
	await doJob(shop, job)
	const ended = latestJob(books, run)
	if (ended?.state !== 'done') throw new Error(`${name}: ${ended?.words}`)
	return performance.now() - from
}
for (const name of ['gather', 'number', 'make'] as const) await step(name)
await pool.destroy()
const { mail } = readSettings(books)

writeMessages(books, benchDesk, run)
const some = waitingMessages(books, run, Math.min(count, 1000))
const raws = await Promise.all(some.map(async (message) => ({ message, raw: (await rawOf(books, message)).raw })))
const bare = createTransport({
	...{ pool: true, host: '127.0.0.1', port: smtpPort, secure: false, ignoreTLS: true },
	...{ maxConnections: mail.lines, maxMessages: mail.perLine },
})
const from = performance.now()
await Promise.all(
	raws.map(({ message, raw }) => bare.sendMail({ envelope: { from: message.sender, to: message.recipient }, raw })),
)
const bareRate = (raws.length * 1000) / (performance.now() - from)
bare.close()

changeSettings(books, benchDesk, { mail: { ...mail, mode: 'practice' } })
const ms = await step('send')
const rate = (count * 1000) / ms
const row = (name: string, value: string) => console.log(`${name.padEnd(58)} ${value}`)
const size = raws.reduce((sum, { raw }) => sum + raw.length, 0) / raws.length
console.log(`${count} messages of ${(size / 1024).toFixed(0)} KB over ${mail.lines} lines, one run of this machine\n`)
row('sent, each with its mark, answer and log on disk', `${rate.toFixed(0)} messages a second`)
row('bare pool of nodemailer, finished bytes, nothing noted', `${bareRate.toFixed(0)} messages a second`)
row('the one ÷ the other', (rate / bareRate).toFixed(2))

// What being on disk costs: the commits of such a run, with and without.
const commit = (mode: string) => {
	books.db.pragma(`synchronous = ${mode}`)
	const began = performance.now()
	for (let place = 0; place < 300; place++) books.sql('UPDATE job SET done = ? WHERE id = 1').run(place as never)
	return (performance.now() - began) / 300
}
const [plain, full] = [commit('NORMAL'), commit('FULL')]
row(
	'a commit that is on disk (synchronous = FULL)',
	`${full.toFixed(2)} ms; without waiting for the disk ${plain.toFixed(2)} ms`,
)
practice.kill('SIGTERM')
books.db.close()
rmSync(books.folder, { recursive: true, force: true })
process.exit(0)

import { spawnSync } from 'node:child_process'
import { root } from './tally'

/** Builds what is to be tested, once for all workers; a build that is fresh stands. */
export default function built(): void {
	const { status } = spawnSync(process.execPath, ['scripts/build.mjs'], { cwd: root, stdio: 'inherit' })
	if (status !== 0) throw new Error('The build failed; see above.')
}

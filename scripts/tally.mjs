// npm run -s tally -- …: the command line, with its set-up done first.
import { spawnSync } from 'node:child_process'
import { bundle, checkNode, inRoot, install, root } from './setup.mjs'

checkNode()
await install({ quiet: true })
await bundle()
const { status } = spawnSync(process.execPath, [inRoot('dist/tally.mjs'), ...process.argv.slice(2)], {
	cwd: process.env.INIT_CWD ?? root,
	stdio: 'inherit',
	env: { ...process.env, NORTH_TALLY_ROOT: root },
})
process.exit(status ?? 1)

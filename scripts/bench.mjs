// npm run bench [-- COUNT]: the benchmark of tests/bench, bundled beside the product's own worker.
import { spawnSync } from 'node:child_process'
import { bundle, bundleEntries, checkNode, inRoot, install, root } from './setup.mjs'

checkNode()
install()
await bundle()
await bundleEntries({ bench: 'tests/bench/main.ts', bare: 'tests/bench/bare.ts' })
const { status } = spawnSync(process.execPath, [inRoot('dist/bench.mjs'), ...process.argv.slice(2)], {
	cwd: root,
	stdio: 'inherit',
	env: { ...process.env, NORTH_TALLY_ROOT: root },
})
process.exit(status ?? 1)

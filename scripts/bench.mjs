// npm run bench [-- COUNT]: orders to PDFs, beside bare pdfkit. npm run bench -- web [COUNT]: the bench's page while a run is made.
import { spawnSync } from 'node:child_process'
import { buildWeb, bundle, bundleEntries, checkNode, inRoot, install, root } from './setup.mjs'

checkNode()
install()
await bundle()
const [what, ...rest] = process.argv.slice(2)
const web = what === 'web'
if (web) buildWeb()
await bundleEntries({ bench: 'tests/bench/main.ts', bare: 'tests/bench/bare.ts', web: 'tests/bench/web.ts' })
const { status } = spawnSync(
	process.execPath,
	[inRoot(`dist/${web ? 'web' : 'bench'}.mjs`), ...(web ? rest : process.argv.slice(2))],
	{
		cwd: root,
		stdio: 'inherit',
		env: { ...process.env, NORTH_TALLY_ROOT: root },
	},
)
process.exit(status ?? 1)

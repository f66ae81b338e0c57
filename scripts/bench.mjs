// npm run bench [-- COUNT]: orders to PDFs, beside bare pdfkit. npm run bench -- web [COUNT]: the bench's page while a run is made.
// npm run bench -- layouts: each shipped look beside the drawing of before, a heavy one, papers of thousands of lines.
// npm run bench -- forms: a form of ten pages from its bytes to its layout, beside mammoth.
// npm run bench -- papers [COUNT]: rows of a sheet to drafts of letters, beside as many orders to drafts of invoices.
// npm run bench -- send [COUNT]: messages to the practice server, beside a bare pool of nodemailer.
// npm run bench -- editor: how soon the paper follows a change of its layout, in a browser.
// npm run bench -- intake [ROWS]: a file of orders to waiting orders, beside csv-parse alone.
// npm run bench -- answers [ROWS]: how fast the web answers while a file of orders is read and accepted.
// npm run bench -- statements [COUNT]: statements from the ledger to PDFs, and the accounts of 200,000 items.
import { spawnSync } from 'node:child_process'
import { buildWeb, bundle, bundleEntries, checkNode, inRoot, install, root } from './setup.mjs'

checkNode()
await install()
await bundle()
const [what, ...rest] = process.argv.slice(2)
const alone = ['layouts', 'forms', 'papers', 'send', 'intake']
const inTheWeb = ['web', 'statements', 'editor', 'answers']
const own = alone.includes(what) || inTheWeb.includes(what)
if (inTheWeb.includes(what)) buildWeb()
await bundleEntries({
	bench: 'tests/benchmark/main.ts',
	bare: 'tests/benchmark/bare.ts',
	web: 'tests/benchmark/web.ts',
	statements: 'tests/benchmark/statements.ts',
	layouts: 'tests/benchmark/layouts.ts',
	forms: 'tests/benchmark/forms.ts',
	papers: 'tests/benchmark/papers.ts',
	send: 'tests/benchmark/send.ts',
	editor: 'tests/benchmark/editor.ts',
	intake: 'tests/benchmark/intake.ts',
	answers: 'tests/benchmark/answers.ts',
})
const { status } = spawnSync(
	process.execPath,
	// The thread that reads files has as much room for what is young.
	[
		...(what === 'intake' ? ['--max-semi-space-size=32'] : []),
		inRoot(`dist/${own ? what : 'bench'}.mjs`),
		...(own ? rest : process.argv.slice(2)),
	],
	{
		cwd: root,
		stdio: 'inherit',
		env: { ...process.env, NORTH_TALLY_ROOT: root },
	},
)
process.exit(status ?? 1)

// One of two processes that number at the same moment: node race.mjs RUN COUNT AT, the last as a time of the machine's clock in ms.
import { numberDocuments } from '@/runs/issue/number'
import { openBooks } from '@/store/openBooks'

const [run, count, at] = process.argv.slice(2).map(Number)
const books = openBooks()
while (Date.now() < (at ?? 0));
const numbered = numberDocuments(
	books,
	{ clerk: `process ${run}`, now: () => '2026-10-31T10:00:00.000Z' },
	run ?? 0,
	count ?? 0,
)
console.log(JSON.stringify(numbered))

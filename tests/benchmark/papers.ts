import { rmSync } from 'node:fs'
import { paperKindSchema } from '@/core/paperKind'
import { readingSchema } from '@/intake/reading'
import { startRun } from '@/runs/bench/steps'
import { acceptNow, doFileJobs, lookAt } from '@/runs/bringIn/atOnce'
import { answer } from '@/runs/bringIn/receive'
import { gather } from '@/runs/drafts/gather'
import { takeColumns } from '@/runs/papers/columns'
import { gatherPapers, startPapers } from '@/runs/papers/gather'
import { makeKind } from '@/runs/papers/kinds'
import { readFile } from '@/store/files'
import { allPaperKinds } from '@/store/paperKinds'
import { benchBooks, benchDesk as desk } from './books'

// Rows of a sheet to checked drafts, a letter a row, beside as many orders of five lines to checked drafts of invoices in the same run.

const count = Number(process.argv[2] ?? 10_000)
const day = '2026-10-31'
const books = benchBooks(count)
let from = performance.now()
const times: Record<string, number> = {}
const lap = (what: string) => {
	times[what] = Math.round(performance.now() - from)
	from = performance.now()
}
const body = { name: 'Letter', several: 'letters', numbered: false, stands: null, becomesOrder: false, each: 'row' }
makeKind(books, desk, 'unpriced', 'sheet', paperKindSchema.parse(body))
const kind = allPaperKinds(books)[0]?.id ?? 0
const members = Array.from(
	{ length: count },
	(_, at) => `M-${at},Member ${at},m${at}@post.example,${at} Mill Lane,${(at % 100) + 0.5}`,
)
const sheet = Buffer.from(['Member,Name,Email,Address 1,Fee', ...members, ''].join('\n'))
from = performance.now()
const id = await lookAt(books, desk, 'members.csv', sheet, { kind: 'rows', paperKind: kind })
answer(books, desk, id, { kind: true })
const { head } = readingSchema.parse(JSON.parse(readFile(books, id)?.reading ?? '{}'))
takeColumns(books, desk, id, [
	{ place: head.indexOf('Member'), of: 'sheet', type: 'text' },
	{ place: head.indexOf('Fee'), of: 'sheet', type: 'number' },
])
await doFileJobs(books, desk)
lap('rows read')
await acceptNow(books, desk, id)
lap('rows accepted')
const letters = startPapers(books, desk, kind, '9999-12-31', day)
if (!letters.ok) throw new Error(letters.message)
gatherPapers(books, desk, letters.id ?? 0, day)
lap('letters drafted')
from = performance.now()
const invoices = startRun(books, desk, day, day)
if (invoices.ok) gather(books, desk, invoices.id ?? 0, day)
lap('invoices drafted')
console.log(`${count} of each, ms:`, times)
console.log(
	`drafting letters takes ${((times['letters drafted'] ?? 0) / (times['invoices drafted'] ?? 1)).toFixed(2)} of the invoices' time`,
)
books.db.close()
rmSync(books.folder, { recursive: true, force: true })

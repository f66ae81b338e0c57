import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { test } from 'vitest'
import { sourceOf } from '@/archive/source'
import { noAnswers, understand, type Answers } from '@/forms/marks'
import { vocabularyOf } from '@/forms/offers'
import { readForm } from '@/forms/readForm'
import { layoutOfForm } from '@/forms/toLayout'
import { fieldsByKey } from '@/layout/fields'
import { readLayout } from '@/layout/readLayout'
import { samplePaper } from '@/layout/sample'
import { compileLayout } from '@/layout/draw'
import { makeDocument } from '@/pdf/makeDocument'
import { controlsForm } from './forms/byHand'
import { mergeLetter, twoTables } from './forms/byLibrary'
const at = (name: string) => readFileSync(join(import.meta.dirname, 'forms', name))
test('x', async () => {
	for (const [name, bytes, kind] of [
		['letter', await mergeLetter(), 'invoice'],
		['brackets', at('brackets.docx'), 'invoice'],
		['controls', controlsForm(), 'invoice'],
		['tables', await twoTables(), 'invoice'],
		['page', at('page.html'), 'invoice'],
		['statement', at('statement.odt'), 'statement'],
	] as const) {
		const t = performance.now()
		const { form, pictures } = await readForm(sourceOf(name, bytes))
		const vocabulary = vocabularyOf(fieldsByKey.values(), kind)
		const und = understand(form, noAnswers, vocabulary)
		console.log(name, Math.round(performance.now() - t), 'ms', pictures.length)
		console.log(und.marks.map((m) => `${m.key} [${m.shown}] "${m.spots[0]?.before}" → ${m.offer?.field} by ${m.offer?.by} ×${m.spots.length}`).join('\n'))
		console.log(und.rows.map((r) => `${r.key} ${r.source}`).join('\n'))
		const answers: Answers = { ...noAnswers, marks: Object.fromEntries(und.marks.flatMap((m) => (m.offer ? [[m.key, { field: m.offer.field }]] : []))) }
		const made = layoutOfForm(und, answers, kind, name)
		console.log(made.notes.map((n) => `  - ${n.block} ${n.words}`).join('\n'))
		const read = readLayout(JSON.stringify(made.layout))
		if (!read.ok) console.log(JSON.stringify(read.faults))
		writeFileSync(`/tmp/lo/${kind}.content.json`, JSON.stringify(samplePaper(kind)))
		writeFileSync(`/tmp/lo/${name}.json`, JSON.stringify(made.layout, null, 1))
	}
})

import { readFileSync } from 'node:fs'
import { gunzipSync } from 'node:zlib'
import { expect, test } from 'vitest'
import { z } from 'zod'
import { readContent } from '@/kinds'
import { compileLayout } from '@/layout/draw'
import { layoutSchema } from '@/layout/schema'
import { readLogo } from './logo'
import { makeDocument } from './makeDocument'

// Papers as they were drawn when layouts first were data. A version of a layout draws what was issued by it byte for byte, for good: the
// hashes are of files that were made then, with the layouts and the contents of then.

const made = z
	.object({
		layouts: z.array(z.unknown()),
		contents: z.array(z.unknown()),
		cases: z.array(z.object({ layout: z.number(), content: z.number(), sha256: z.string() })),
	})
	.parse(JSON.parse(gunzipSync(readFileSync('tests/issuedPapers.json.gz')).toString()))

test.each(
	made.layouts.map((layout, place) => [z.object({ name: z.string(), kind: z.string() }).parse(layout), place] as const),
)('what was issued by $name for a $kind is made again as it was', async (_named, place) => {
	const logo = await readLogo('image/svg+xml', readFileSync('demo/logo.svg'), 'demo')
	if (!logo.ok) throw new Error(logo.refusal.message)
	const art = {
		layout: compileLayout(layoutSchema.parse(made.layouts[place])),
		pictures: new Map([['demo', logo.value]]),
	}
	for (const { content, sha256 } of made.cases.filter(({ layout }) => layout === place)) {
		const own = readContent(JSON.stringify(made.contents.at(content)))
		expect((await makeDocument(own, art)).sha256).toBe(sha256)
	}
})

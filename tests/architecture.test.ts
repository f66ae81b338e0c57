import { readdirSync, readFileSync } from 'node:fs'
import { join, relative } from 'node:path'
import { expect, test } from 'vitest'

const source = join(import.meta.dirname, '../src')
/** What each folder may import of ours, besides itself (docs/architecture.md). */
const mayImport: Record<string, string[]> = {
	core: [],
	archive: ['core'],
	intake: ['archive', 'core'],
	layout: ['core'],
	kinds: ['core', 'layout'],
	pdf: ['kinds', 'layout', 'core'],
	store: ['archive', 'forms', 'kinds', 'layout', 'core', 'intake'],
	forms: ['archive', 'core', 'intake', 'kinds', 'layout'],
	beside: ['core', 'layout'],
	post: ['core', 'store'],
	runs: ['archive', 'beside', 'core', 'forms', 'intake', 'kinds', 'layout', 'pdf', 'store', 'post'],
	runner: ['core', 'intake', 'kinds', 'layout', 'pdf', 'store', 'post', 'runs'],
	cli: ['archive', 'core', 'forms', 'intake', 'kinds', 'layout', 'pdf', 'store', 'post', 'runs', 'runner'],
	ui: ['core'],
	app: ['core', 'forms', 'intake', 'kinds', 'layout', 'pdf', 'post', 'runs', 'store', 'ui'],
}
const files = readdirSync(source, { recursive: true, encoding: 'utf8' }).filter(
	(name) => /\.tsx?$/.test(name) && !/\.test\.tsx?$/.test(name),
)
const imports = (file: string) =>
	[...readFileSync(join(source, file), 'utf8').matchAll(/(?<![.\w])(?:from|import)\s*\(?['"]([^'"]+)['"]/g)].map(
		(match) => match[1] ?? '',
	)
const folderOf = (file: string) => file.split('/')[0] ?? ''

test('imports only point down', () => {
	const against = files.flatMap((file) =>
		imports(file).flatMap((path) => {
			const target = path.startsWith('@/')
				? path.slice(2)
				: path.startsWith('.')
					? relative(source, join(source, file, '..', path))
					: null
			if (target === null) return []
			const [from, to] = [folderOf(file), folderOf(target)]
			return from === to || mayImport[from]?.includes(to) || ['proxy.ts', 'instrumentation.ts'].includes(from)
				? []
				: [`${file} imports ${path}`]
		}),
	)
	expect(against).toEqual([])
})

test('the core and the layout know nothing of Node, the clock or the screen', () => {
	const against = files
		.filter((file) => ['core', 'layout'].includes(folderOf(file)))
		.flatMap((file) => {
			const text = readFileSync(join(source, file), 'utf8')
			const outside = imports(file).filter(
				(path) => !path.startsWith('.') && !path.startsWith('@/core') && path !== 'zod',
			)
			return [...outside, ...(text.match(/Date\.now|new Date\(\)|Math\.random|process\./g) ?? [])].map(
				(word) => `${file}: ${word}`,
			)
		})
	expect(against).toEqual([])
})

test('SQL stands in the store alone (and in the practice server, which has a database of its own)', () => {
	const against = files.filter(
		(file) =>
			folderOf(file) !== 'store' &&
			file !== 'post/practiceMail.ts' &&
			/\b(SELECT|INSERT INTO|UPDATE|DELETE FROM)\b[\s\S]{0,200}\b(FROM|SET|VALUES|WHERE)\b/.test(
				readFileSync(join(source, file), 'utf8'),
			),
	)
	expect(against).toEqual([])
})

test('what is particular to a kind of document stands in its own file and the list of kinds', () => {
	const against = files
		.filter((file) => !file.startsWith('kinds/') && !file.startsWith('layout/'))
		.flatMap((file) => {
			const text = readFileSync(join(source, file), 'utf8')
			const tests = text.match(/(?:===|!==) '(?:statement|credit-note)'/g) ?? []
			return tests.map((found) => `${file}: ${found}`)
		})
	expect(against).toEqual([])
})

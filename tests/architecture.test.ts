import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
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
	companions: ['core', 'layout'],
	post: ['core', 'store'],
	runs: ['archive', 'companions', 'core', 'forms', 'intake', 'kinds', 'layout', 'pdf', 'store', 'post'],
	runner: ['core', 'intake', 'kinds', 'layout', 'pdf', 'store', 'post', 'runs'],
	cli: ['archive', 'core', 'forms', 'intake', 'kinds', 'layout', 'pdf', 'store', 'post', 'runs', 'runner'],
	ui: ['core'],
	app: ['core', 'forms', 'intake', 'kinds', 'layout', 'pdf', 'post', 'runs', 'store', 'ui'],
}
const files = readdirSync(source, { recursive: true, encoding: 'utf8' }).filter(
	(name) => /\.tsx?$/.test(name) && !/\.test\.tsx?$/.test(name),
)
const imports = (file: string) =>
	[...readFileSync(join(source, file), 'utf8').matchAll(/(?<![.\w])(?:from\s+|import\s*\(?)['"]([^'"]+)['"]/g)].map(
		(match) => match[1] ?? '',
	)
const folderOf = (file: string) => file.split('/')[0] ?? ''

const known = new Set(files)
/** The file of ours that an import names; null for a package. */
function targetOf(file: string, path: string): string | null {
	const target = path.startsWith('@/') ? path.slice(2) : path.startsWith('.') ? join(dirname(file), path) : null
	if (target === null) return null
	return (
		[`${target}.ts`, `${target}.tsx`, `${target}/index.ts`, `${target}/index.tsx`, target].find((one) =>
			known.has(one),
		) ?? target
	)
}
const importsOf = new Map(
	files.map((file) => [file, imports(file).flatMap((path) => targetOf(file, path) ?? [])] as const),
)

test('imports only point down', () => {
	const against = files.flatMap((file) =>
		(importsOf.get(file) ?? []).flatMap((target) => {
			const [from, to] = [folderOf(file), folderOf(target)]
			return from === to || mayImport[from]?.includes(to) || ['proxy.ts', 'instrumentation.ts'].includes(from)
				? []
				: [`${file} imports ${target}`]
		}),
	)
	expect(against).toEqual([])
})

/** The rooms of `runs`, each of which may import from those above it alone. */
const rooms = [
	'customers',
	'files',
	'layouts',
	'forms',
	'receivables',
	'extract',
	'records',
	'bringIn',
	'drafts',
	'statements',
	'recheck',
	'tally',
	'issue',
	'papers',
	'send',
	'bench',
	'firm',
]
const roomOf = (file: string) => file.split('/')[1] ?? ''

test('each room of runs imports from those before it alone', () => {
	const within = files.filter((file) => folderOf(file) === 'runs')
	expect([...new Set(within.map(roomOf))].filter((room) => !rooms.includes(room))).toEqual([])
	const against = within.flatMap((file) =>
		(importsOf.get(file) ?? []).flatMap((target) =>
			folderOf(target) === 'runs' && rooms.indexOf(roomOf(target)) > rooms.indexOf(roomOf(file))
				? [`${file} imports ${target}`]
				: [],
		),
	)
	expect(against).toEqual([])
})

test('no file imports itself by way of others', () => {
	const circles: string[] = []
	const done = new Set<string>()
	const follow = (file: string, way: string[]): void => {
		if (way.includes(file)) circles.push([...way.slice(way.indexOf(file)), file].join(' → '))
		if (done.has(file) || way.includes(file)) return
		for (const target of importsOf.get(file) ?? []) follow(target, [...way, file])
		done.add(file)
	}
	for (const file of files) follow(file, [])
	expect(circles).toEqual([])
})

test('the core and the layout know nothing of Node, the clock or the screen', () => {
	const against = files
		.filter((file) => ['core', 'layout'].includes(folderOf(file)))
		.flatMap((file) => {
			const text = readFileSync(join(source, file), 'utf8')
			const outside = imports(file).filter(
				// stdnum: arithmetic on text alone.
				(path) => !path.startsWith('.') && !path.startsWith('@/core') && path !== 'zod' && !path.startsWith('stdnum/'),
			)
			return [...outside, ...(text.match(/Date\.now|new Date\(\)|Math\.random|process\./g) ?? [])].map(
				(word) => `${file}: ${word}`,
			)
		})
	expect(against).toEqual([])
})

test('what several pages of the web use stands in a folder of its own, not in that of one page', () => {
	const pages = new Set(
		files.filter((file) => /^app\/.+\/page\.tsx$/.test(file)).map((file) => file.split('/').slice(0, 2).join('/')),
	)
	const against = files
		.filter((file) => folderOf(file) === 'app')
		.flatMap((file) =>
			(importsOf.get(file) ?? []).flatMap((target) => {
				const home = target.split('/').slice(0, 2).join('/')
				return pages.has(home) && !file.startsWith(`${home}/`) ? [`${file} imports ${target}`] : []
			}),
		)
	expect(against).toEqual([])
	expect(pages.size).toBeGreaterThan(10)
})

test('every way to another page is one that is fetched when it is taken', () => {
	expect(files.filter((file) => imports(file).includes('next/link'))).toEqual(['ui/Link.tsx'])
})

test('what writes comes through the seam of acts, and what only reads through that of reading', () => {
	const within = files.filter((file) => folderOf(file) === 'app')
	const routes = within.filter((file) => file.endsWith('/route.ts') && file !== 'app/api/alive/route.ts')
	const past = routes.flatMap((file) => {
		const methods = [
			...readFileSync(join(source, file), 'utf8').matchAll(/^export (?:const|async function|function) (\w+)(.*)/gm),
		]
		return methods
			.filter(
				([, method = '', rest = '']) =>
					/^[A-Z]+$/.test(method) && !/^ = (actRoute|answering)\($/.test(rest.slice(0, rest.indexOf('(') + 1)),
			)
			.map(([, method]) => `${file}: ${method}`)
	})
	// Who is at the desk is known by the two seams, and by the act of sitting down itself.
	const seams = ['app/books.ts', 'app/reading.ts', 'app/acts/seam.ts', 'app/acts/desk.ts']
	const own = within
		.filter((file) => !seams.includes(file) && importsOf.get(file)?.includes('app/books.ts'))
		.filter((file) =>
			/import \{[^}]*\b(books|desk|clerk)\b[^}]*\} from '[^']*\/books'/.test(readFileSync(join(source, file), 'utf8')),
		)
	expect([...past, ...own]).toEqual([])
	expect(routes.length).toBeGreaterThan(20)
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

/** What Next calls by its name, without an import. */
const calledByNext = /^(GET|POST|PUT|DELETE|metadata|dynamic|runtime|config|viewport|generateMetadata|register|proxy)$/

test('what no other file uses is not exported', () => {
	const root = join(import.meta.dirname, '..')
	const others = ['tests', 'scripts'].flatMap((folder) =>
		readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
			.filter((name) => /\.(tsx?|mjs)$/.test(name))
			.map((name) => join(root, folder, name)),
	)
	const own = readdirSync(source, { recursive: true, encoding: 'utf8' }).filter((name) => /\.tsx?$/.test(name))
	const texts = [...others, ...own.map((name) => join(source, name))].map(
		(file) => [file, readFileSync(file, 'utf8')] as const,
	)
	/** By each word, the files in which it is brought in, or looked for in what was brought in whole. */
	const broughtIn = new Map<string, Set<string>>()
	for (const [file, text] of texts)
		for (const [found] of text.matchAll(
			/\{[^{}]*\}\s*(?:from|= await import)|import\([^)]*\)\)?\.\w+|\.then\(\(\{[^}]*\}/g,
		))
			for (const [name] of found.matchAll(/\w+/g)) broughtIn.set(name, (broughtIn.get(name) ?? new Set()).add(file))
	const alone = files.flatMap((file) =>
		[
			...readFileSync(join(source, file), 'utf8').matchAll(
				/^export (?:async )?(?:const|function\*?|type|class|let) (\w+)/gm,
			),
		]
			.map(([, name = '']) => name)
			.filter(
				(name) =>
					!calledByNext.test(name) && ![...(broughtIn.get(name) ?? [])].some((other) => other !== join(source, file)),
			)
			.map((name) => `${file}: ${name}`),
	)
	expect(alone).toEqual([])
})

test('no rule reads what an event, a label or a reason says: what a later act needs is data', () => {
	const said = '(?:act|detail|words|reason|\\w+_reason|remedy|brief|label|spared|why|mark|digest|said|told|summary)'
	const literal = '[\'"`][^\'"`]'
	const forbidden = [
		// A pattern or a part of it, looked for in words.
		new RegExp(`/[a-z]*\\.(?:test|exec)\\((?:[\\w?.]+\\.)?${said}\\b`),
		new RegExp(
			`\\b${said}\\??\\.(?:startsWith|endsWith|includes|indexOf|match|matchAll|search|replace|replaceAll|split)\\(`,
		),
		new RegExp(`\\[[^\\]]*${literal}[^\\]]*\\]\\.includes\\((?:\\w+\\.)?${said}\\)`),
		// In SQL: of a column that holds words.
		new RegExp(`\\b${said} +(?:NOT +)?(?:LIKE|GLOB|IN) +\\(?'`),
		new RegExp(`\\b\\w\\.${said} *(?:=|<>) *'[^']`),
		new RegExp(`instr\\((?:\\w+\\.)?${said}\\b`),
	]
	const against = files
		.filter((file) => ['runs', 'store', 'core'].includes(folderOf(file)))
		.flatMap((file) =>
			readFileSync(join(source, file), 'utf8')
				.split('\n')
				.flatMap((text, line) =>
					forbidden.some((rule) => rule.test(text)) ? [`${file}:${line + 1} ${text.trim()}`] : [],
				),
		)
	expect(against).toEqual([])
	// What was there before is seen by it.
	for (const text of [
		'changes.some(({ words }) => /(^|; )email /.test(words))',
		"charge.label.startsWith('Freight')",
		"e.act LIKE 'numbered %'",
		"['looked right', 'to be looked at again'].includes(act)",
		"remedy NOT LIKE '% is refused whole%'",
	])
		expect([text, forbidden.some((rule) => rule.test(text))]).toEqual([text, true])
})

test('no unit test keeps a time of its own, which a busy machine breaks', () => {
	const root = join(import.meta.dirname, '..')
	const found = ['src', 'tests'].flatMap((folder) =>
		readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
			.filter((name) => name.endsWith('.test.ts'))
			.flatMap((name) =>
				readFileSync(join(root, folder, name), 'utf8')
					.split('\n')
					.flatMap((line, at) =>
						/^\t*\}, \d[\d_]{3,}\)$|\btimeout: \d[\d_]{3,}|performance\.now\(\) - \w+\)\.toBeLess/.test(line)
							? [`${folder}/${name}:${at + 1}`]
							: [],
					),
			),
	)
	expect(found).toEqual([])
})

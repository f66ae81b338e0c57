import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { deflateSync } from 'node:zlib'
import { describe, expect, test } from 'vitest'
import { pictureFault, pictureFaults } from '@/runs/files/untrustedImages'
import { bundle } from '../../scripts/setup.mjs'
import { pdfText } from '../../tests/browser/pdf'
import { artOf, made as makeDocument } from '../../tests/looks'
import { png as pngOf, pngWith } from '../../tests/pngs'
import { invoice } from '../../tests/support'
import { metrics, unprintable } from './fontKit'
import { readLogo } from './logo'
import { logoColours } from './logoColours'
import { makeTogether } from './makeDocument'

const folder = mkdtempSync(join(tmpdir(), 'north-tally-pdf-'))
const kept = (name: string, bytes: Buffer) => {
	const path = join(folder, name)
	writeFileSync(path, bytes)
	return path
}
const content = invoice([{ quantity: '2.5', unitPrice: '14.20', description: 'Łódź rope, Ærø splice, ½ fathom “eye”' }])

test('the PDF is well formed, every font is embedded, and its text comes out right', async () => {
	const { bytes, pages } = await makeDocument(content)
	const path = kept('one.pdf', bytes)
	expect(execFileSync('qpdf', ['--check', path], { encoding: 'utf8' })).toContain('No syntax or stream encoding errors')
	const fonts = execFileSync('pdffonts', [path], { encoding: 'utf8' }).trim().split('\n').slice(2)
	expect(fonts).toHaveLength(2)
	for (const font of fonts) expect(font).toMatch(/CID TrueType\s+Identity-H\s+yes yes yes/)
	const text = execFileSync('pdftotext', ['-layout', path, '-'], { encoding: 'utf8' })
	for (const words of ['T-0041', 'Mørkvik Łodge Æfty', 'Łódź rope, Ærø splice, ½ fathom', 'Total', '£42.60'])
		expect(text).toContain(words)
	expect((await pdfText(bytes)).join(' ')).toContain('Please pay £42.60 by 30 Nov 2026, quoting T-0041.')
	expect(pages).toBe(1)
	expect(bytes.length).toBeLessThan(35 * 1024)
})

test('made again, beside whatever else, it has the same bytes', async () => {
	const first = await makeDocument(content)
	await makeDocument(invoice([{ quantity: '1', unitPrice: '1', description: 'Ελληνικά и кириллица' }]))
	const again = await makeDocument(structuredClone(content))
	expect(again.sha256).toBe(first.sha256)
	expect((await makeDocument({ ...content, number: 'T-0042' })).sha256).not.toBe(first.sha256)
})

test('Greek and Cyrillic are printed; what the fonts lack is named', async () => {
	const { bytes } = await makeDocument(
		invoice([{ quantity: '1', unitPrice: '1', description: 'Ελληνικά и кириллица' }]),
	)
	expect((await pdfText(bytes)).join(' ')).toContain('Ελληνικά и кириллица')
	expect(unprintable('山本 Łodge \u{1d360} 山')).toEqual(['\u{1d360}'])
	expect(unprintable('Mørkvik, Łódź – “Ærø” €5')).toEqual([])
})

test('kerned text is as wide as it is measured, in every face', () => {
	const { width } = metrics
	expect(width('AV', 'regular', 10)).toBeLessThan(width('A', 'regular', 10) + width('V', 'regular', 10))
	expect(width('1234567890', 'regular', 10)).toBeCloseTo(width('1111111111', 'regular', 10), 5)
	expect(width('Total', 'bold', 10)).toBeGreaterThan(width('Total', 'regular', 10))
})

/** A PNG of one colour, two points wide and one high, with alpha. */
function png(): Buffer {
	const chunk = (type: string, data: Buffer) => {
		const head = Buffer.alloc(8)
		head.writeUInt32BE(data.length)
		head.write(type, 4)
		return Buffer.concat([head, data, Buffer.alloc(4)])
	}
	const header = Buffer.from([0, 0, 0, 2, 0, 0, 0, 1, 8, 6, 0, 0, 0])
	const row = Buffer.from([0, 200, 30, 30, 255, 200, 30, 30, 128])
	return Buffer.concat([
		Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
		chunk('IHDR', header),
		chunk('IDAT', deflateSync(row)),
		chunk('IEND', Buffer.alloc(0)),
	])
}

/** A PNG that says to be 30,000 points wide and high, of a few bytes. */
function hugePng(): Buffer {
	const bytes = Buffer.from(png())
	bytes.writeUInt32BE(30_000, 16)
	bytes.writeUInt32BE(30_000, 20)
	return bytes
}

/** One grey point, progressive. */
const jpeg = Buffer.from(
	`/9j/4AAQSkZJRgABAQEASABIAAD/2wBDAP${'/'.repeat(86)}wgALCAABAAEBAREA/8QAFBABAAAAAAAAAAAAAAAAAAAAAP/aAAgBAQABPxA=`,
	'base64',
)
const jpegEnd = Buffer.concat([jpeg, Buffer.from([0xff, 0xd9])])

/** The JPEG with another frame (ITU-T T.81, B.2.2). */
function framed({ bits = 8, width = 1, height = 1 }): Buffer {
	const own = Buffer.from(jpegEnd)
	const at = [0xc0, 0xc1, 0xc2].map((marker) => own.indexOf(Buffer.from([0xff, marker]))).find((one) => one > 0) ?? 0
	if (at === 0) throw new Error('The JPEG has no frame.')
	own[at + 4] = bits
	own.writeUInt16BE(height, at + 5)
	own.writeUInt16BE(width, at + 7)
	return own
}

test('a logo from PNG, JPEG or SVG stands on the page', async () => {
	const svg = Buffer.from(
		'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20"><path d="M0 0h40v20z" fill="#123456" opacity="0.5"/></svg>',
	)
	const batch = [{ content, art: artOf('invoice') }]
	for (const [type, bytes, ratio] of [
		['image/png', png(), 2],
		['image/svg+xml', svg, 2],
		['image/jpeg', jpegEnd, 1],
	] as const) {
		const logo = await readLogo(type, bytes, type)
		if (!logo.ok) throw new Error(logo.refusal.message)
		expect(logo.value.ratio).toBe(ratio)
		const made = await makeDocument({ ...content, issuer: { ...content.issuer, logo: type } }, 'Plain', logo.value)
		expect(execFileSync('qpdf', ['--check', kept('logo.pdf', made.bytes)], { encoding: 'utf8' })).toContain('No syntax')
		expect(
			(await makeDocument({ ...content, issuer: { ...content.issuer, logo: type } }, 'Plain', logo.value)).sha256,
		).toBe(made.sha256)
		const own = { ...content, issuer: { ...content.issuer, logo: type } }
		batch.push(...[own, own].map((content) => ({ content, art: artOf('invoice', 'Plain', logo.value) })))
	}
	// In a batch to print each document keeps its own, and a picture used twice is there once.
	const path = kept('batch.pdf', await makeTogether(batch))
	expect(execFileSync('qpdf', ['--check', path], { encoding: 'utf8' })).toContain('No syntax')
	const { objects } = JSON.parse(execFileSync('qpdf', ['--json=1', '--json-key=objects', path], { encoding: 'utf8' }))
	const logoOf = (page: { '/Resources': unknown }) =>
		JSON.stringify(page['/Resources'])?.match(/"\/I[^"]+":"(\d+)/)?.[1] ?? ''
	const drawn = Object.values<{ '/Type'?: string; '/Resources': string | object }>(objects)
		.filter((one) => one?.['/Type'] === '/Page')
		.map((page) =>
			logoOf({
				'/Resources': typeof page['/Resources'] === 'string' ? objects[page['/Resources']] : page['/Resources'],
			}),
		)
	expect(drawn).toHaveLength(7)
	expect(drawn[0]).toBe('')
	expect(new Set(drawn).size).toBe(4)
	expect((await readLogo('image/svg+xml', readFileSync('demo/logo.svg'), 'demo')).ok).toBe(true)
})

test.each([
	['image/gif', 'GIF89a', 'must be a PNG, a JPEG or an SVG'],
	['image/png', 'not a picture', 'may be damaged'],
	['image/png', png().subarray(0, 48), 'may be damaged'],
	['image/jpeg', jpegEnd.subarray(0, 90), 'may be damaged'],
	['image/jpeg', Buffer.concat([jpegEnd.subarray(0, 2), png()]), 'may be damaged'],
	['image/jpeg', framed({ bits: 12 }), 'may be damaged'],
	['image/jpeg', framed({ width: 0 }), 'may be damaged'],
	['image/jpeg', framed({ height: 0 }), 'may be damaged'],
	['image/svg+xml', '<svg viewBox="0 0 10 10"><text>Hi</text></svg>', 'Turn text into paths'],
	['image/svg+xml', '<svg><path d="M0 0"/></svg>', 'needs a viewBox'],
	['image/svg+xml', '<svg viewBox="0 0 9 9" onload="alert(1)"><path d="M0 0"/></svg>', 'fetches or runs something'],
	[
		'image/svg+xml',
		'<svg viewBox="0 0 9 9"><path d="M0 0" fill="url(http://x.example/a)"/></svg>',
		'fetches or runs something',
	],
	['image/svg+xml', '<svg viewBox="0 0 9 9"><use href="file:///etc/passwd"/></svg>', 'fetches or runs something'],
	[
		'image/svg+xml',
		'<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><svg viewBox="0 0 9 9"></svg>',
		'fetches or runs something',
	],
	['image/svg+xml', '<svg viewBox="0 0 9 9"><style>*{fill:red}</style></svg>', 'gradients, styles or filters'],
	['image/png', hugePng(), '30000 × 30000 points'],
])('a %s logo that cannot be used is refused with the remedy', async (type, text, words) => {
	const logo = await readLogo(type, Buffer.from(text), 'x')
	expect(logo.ok ? '' : logo.refusal.message).toContain(words)
})

/** The JPEG with a camera's note of how it was held. */
function held(orientation: number, little: boolean): Buffer {
	const tiff = Buffer.alloc(26)
	const short = (value: number, at: number) => (little ? tiff.writeUInt16LE(value, at) : tiff.writeUInt16BE(value, at))
	const long = (value: number, at: number) => (little ? tiff.writeUInt32LE(value, at) : tiff.writeUInt32BE(value, at))
	tiff.write(little ? 'II' : 'MM', 'latin1')
	short(42, 2)
	long(8, 4)
	short(1, 8)
	short(0x0112, 10)
	short(3, 12)
	long(1, 14)
	short(orientation, 18)
	const length = Buffer.alloc(2)
	length.writeUInt16BE(tiff.length + 8)
	const segment = Buffer.concat([Buffer.from([0xff, 0xe1]), length, Buffer.from('Exif\0\0', 'latin1'), tiff])
	return Buffer.concat([jpegEnd.subarray(0, 2), segment, jpegEnd.subarray(2)])
}

test('a photograph that was taken on its side stands upright on the paper; one that is mirrored is refused', async () => {
	for (const little of [true, false])
		for (const orientation of [1, 3, 6, 8, 99]) {
			const read = await readLogo('image/jpeg', held(orientation, little), 'photo')
			if (!read.ok) throw new Error(read.refusal.message)
			const { object } = read.value
			expect(object.dict.Subtype).toBe([3, 6, 8].includes(orientation) ? 'Form' : 'Image')
			const own = { ...content, issuer: { ...content.issuer, logo: 'photo' } }
			const { bytes } = await makeDocument(own, 'Plain', read.value)
			expect(execFileSync('qpdf', ['--check', kept('held.pdf', bytes)], { encoding: 'utf8' })).toContain('No syntax')
		}
	// A note cut short, or that leads out of itself, is no note.
	const torn = held(6, true)
	torn.writeUInt32LE(0xfffffff0, 16)
	expect((await readLogo('image/jpeg', torn, 'photo')).ok).toBe(true)
	for (const orientation of [2, 4, 5, 7]) {
		const read = await readLogo('image/jpeg', held(orientation, true), 'photo')
		expect(read.ok ? '' : read.refusal.message).toContain('mirrored')
	}
})

test('a JPEG of eight bits with a size is taken, whatever its size', async () => {
	for (const size of [{}, { width: 9, height: 1 }, { width: 1, height: 9 }])
		expect((await readLogo('image/jpeg', framed(size), 'photo')).ok).toBe(true)
})

test('the colours of a logo that text can be set in come from it, pale ones and greys left out', async () => {
	const svg =
		'<svg viewBox="0 0 9 9"><path fill="#123456"/><path fill="#123456"/><path fill="#a33"/><path fill="#ffee88"/><path fill="#808080"/></svg>'
	expect(await logoColours({ type: 'image/svg+xml', bytes: Buffer.from(svg) })).toEqual(['123456', 'aa3333'])
	// The most frequent first, wherever it stands.
	const late = svg.replace('<path fill="#a33"/>', '<path fill="#a33"/>'.repeat(3))
	expect(await logoColours({ type: 'image/svg+xml', bytes: Buffer.from(late) })).toEqual(['aa3333', '123456'])
	expect(await logoColours({ type: 'image/png', bytes: png() })).toEqual(['d02020'])
	expect(await logoColours({ type: 'image/svg+xml', bytes: readFileSync('demo/logo.svg') })).not.toEqual([])
})

test('a logo that the books took by earlier rules is still drawn, so that papers which bear it can be made again', async () => {
	const styled = Buffer.from(
		'<svg viewBox="0 0 9 9"><style>.a{fill:#123456}</style><path class="a" d="M0 0h9v9z"/></svg>',
	)
	expect((await readLogo('image/svg+xml', styled, 'x')).ok).toBe(false)
	expect((await readLogo('image/svg+xml', styled, 'x', true)).ok).toBe(true)
})

describe('an SVG made to do harm is refused before anything draws it', () => {
	const nested = (levels: number, times: number) =>
		`<svg viewBox="0 0 9 9"><defs><g id="a0"><path d="M0 0h9v9z"/></g>${Array.from(
			{ length: levels },
			(_, level) => `<g id="a${level + 1}">${`<use href="#a${level}"/>`.repeat(times)}</g>`,
		).join('')}</defs><use href="#a${levels}"/></svg>`
	const read = (svg: string, kept: boolean) => readLogo('image/svg+xml', Buffer.from(svg), 'x', kept)
	const refusal = async (svg: string, kept = false) => {
		const from = process.cpuUsage()
		const result = await read(svg, kept)
		const { user, system } = process.cpuUsage(from)
		expect((user + system) / 1000).toBeLessThan(3000)
		return result.ok ? 'taken' : result.refusal.message
	}
	test('references within references, also in a picture of before', async () => {
		expect(await refusal(nested(30, 10))).toContain('SVG holds')
		expect(await refusal(nested(30, 10), true)).toContain('shapes by its references')
		expect(await refusal(nested(2, 3), true)).toBe('taken')
		expect(await refusal('<svg viewBox="0 0 9 9"><g id="a"><use href="#a"/></g></svg>', true)).toContain(
			'shapes by its references',
		)
	})
	test('too many elements, too deep, too long, of kinds that are not named', async () => {
		const around = (inner: string) => `<svg viewBox="0 0 9 9">${inner}</svg>`
		expect(await refusal(around('<path d="M0 0"/>'.repeat(30_000)))).toContain('elements')
		expect(await refusal(around('<g>'.repeat(5000) + '</g>'.repeat(5000)))).toContain('nested')
		expect(await refusal(around(`<path d="${'M0 0'.repeat(300_000)}"/>`))).toContain('over 1 MB')
		expect(await refusal(around('<hatch/>'))).toContain('<hatch>')
		expect(await refusal(around('<tspan/>'), true)).toContain('<tspan>')
		expect(await refusal(around('<inkscape:grid><inkscape:odd/></inkscape:grid><path d="M0 0h9v9z"/>'))).toBe('taken')
	})
})

test('a picture is read in a thread of its own: one that takes all the time or room there is ends alone', async () => {
	await bundle()
	expect(await pictureFault('image/svg+xml', readFileSync('demo/logo.svg'))).toBe('')
	expect(await pictureFault('image/png', pngOf(2, 2, [9, 9, 9]))).toBe('')
	// A few kilobytes that unpack to gigabytes: by the size that its head says, and by a head that lies.
	const bomb = deflateSync(Buffer.alloc(100_000_000))
	expect(await pictureFault('image/png', pngWith(30_000, 30_000, bomb))).toContain('30000 × 30000')
	expect(await pictureFault('image/png', pngWith(100, 100, bomb))).toContain('cannot be read')
	// One whose reading takes long: the web goes on meanwhile.
	const endless = `<svg viewBox="0 0 9 9"><path stroke="#000" d="${'M0 0C1 1 2 2 3 3'.repeat(60_000)}"/></svg>`
	let turns = 0
	const clock = setInterval(() => turns++, 5)
	await pictureFault('image/svg+xml', Buffer.from(endless))
	clearInterval(clock)
	expect(turns).toBeGreaterThan(3)
	const many = await pictureFaults([
		{ type: 'image/png', bytes: pngOf(2, 2, [9, 9, 9]) },
		{ type: 'image/png', bytes: Buffer.from('x') },
	])
	expect(many).toEqual(['', expect.stringContaining('cannot be read')])
})

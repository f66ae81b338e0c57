import { type Fields, fieldsByKey } from '@/layout/fields'
import type { PaperKind } from '@/layout/fieldTypes'
import { languageOf } from '@/layout/languages'
import { type Layout, type Piece, papers } from '@/layout/schema'
import { type Form, mapParagraphs, type Note } from './form'
import { looksOf } from './looks'
import { bounded, deepest, idFor, type Making } from './making'
import type { Answers, Understood } from './marks'
import { stack } from './pieces'

/** A layout made of a form, where each of the form's blocks came to stand, and what is not as it was. */
type Made = { layout: Layout; pieceOf: Record<string, string>; notes: Note[] }

/**
 * Makes a layout of a form: its paragraphs, tables and pictures become pieces, its marks the fields that they were given. A mark that was
 * given none stands as it was written.
 * @param name the layout's
 */
export function layoutOfForm(
	understood: Understood,
	answers: Answers,
	kind: PaperKind,
	name: string,
	fields: Fields = fieldsByKey,
): Made {
	const form = withPictureFields(understood, answers, fields)
	const looks = looksOf(form)
	const making: Making = {
		form,
		understood,
		answers,
		looks,
		language: languageOf(form.language || 'en') ?? 'en',
		fields,
		notes: [...form.notes, ...looks.notes],
		pieceOf: new Map(),
		ids: new Set(),
		band: 'body',
		stack,
	}
	const { page, paper } = pageOf(form, making)
	const width = paper.width - page.margins.left - page.margins.right
	const bandOf = (which: 'head' | 'foot'): Piece[] => {
		making.band = which
		const { every, first } = form[which]
		const all = stack(every, width, making, deepest)
		if (!first) return all
		return [
			...stack(first, width, making, deepest).map((piece) => ({ ...piece, on: 'first' as const })),
			...all.map((piece) => ({ ...piece, on: 'following' as const })),
		]
	}
	const head = bandOf('head')
	const foot = bandOf('foot')
	making.band = 'body'
	const body = stack(form.body, width, making, deepest)
	const layout: Layout = {
		format: 1,
		kind,
		name,
		page,
		palette: looks.palette,
		text: looks.text,
		...(looks.display ? { display: looks.display } : {}),
		head,
		body: head.length > 0 ? withSpace(body, form, page.margins.top, head, making) : body,
		foot,
		reckoned: [],
	}
	return { layout, pieceOf: Object.fromEntries(making.pieceOf), notes: making.notes }
}

/** As large as a picture stands where a mark of text is one, until it is made larger on the paper. */
const usualPicture = 64

/** The form with the marks that were given a picture as pictures. */
function withPictureFields({ form, keyAt }: Understood, answers: Answers, fields: Fields): Form {
	const isPicture = (paragraph: string, index: number): boolean => {
		const answer = answers.marks[keyAt.get(`${paragraph} ${index}`) ?? '']
		return answer !== undefined && 'field' in answer && fields.get(answer.field)?.type === 'picture'
	}
	return mapParagraphs(form, (paragraph) => ({
		...paragraph,
		inlines: paragraph.inlines.map((inline, index) =>
			inline.is === 'mark' && isPicture(paragraph.id, index)
				? { is: 'picture', sha256: '', width: usualPicture, height: usualPicture, mark: inline.name }
				: inline,
		),
	}))
}

/** Text begins where it did below a running head: space stands in for what the head leaves. */
function withSpace(body: Piece[], form: Form, top: number, head: readonly Piece[], making: Making): Piece[] {
	const first = body[0]
	const tall = head.reduce((sum, piece) => sum + roughHeight(piece, making.looks.text.size), 0)
	const room = form.page.margins.top - top - tall - 10
	return first && room > 2
		? [{ type: 'space', id: idFor('head-room', making), height: bounded(room, 0, 400) }, ...body]
		: body
}

function roughHeight(piece: Piece, size: number): number {
	const above = piece.above ?? 0
	if (piece.type === 'words')
		return above + (Object.values(piece.says)[0]?.length ?? 1) * (piece.size ?? size) * (piece.lead ?? 1.28)
	if (piece.type === 'picture') return above + piece.height
	if (piece.type === 'box')
		return above + 2 * (piece.pad ?? 8) + piece.pieces.reduce((sum, inner) => sum + roughHeight(inner, size), 0)
	if (piece.type === 'beside')
		return (
			above +
			Math.max(...piece.columns.map(({ pieces }) => pieces.reduce((sum, inner) => sum + roughHeight(inner, size), 0)))
		)
	return above + (piece.type === 'space' ? piece.height : piece.type === 'rule' ? 1 : 14)
}

function pageOf(form: Form, making: Making): { page: Layout['page']; paper: { width: number; height: number } } {
	const { width, height, margins, headAt, footAt } = form.page
	const across = width > height
	const [narrow, long] = across ? [height, width] : [width, height]
	const nearest = (Object.entries(papers) as [Layout['page']['size'], { width: number; height: number }][]).sort(
		([, a], [, b]) =>
			Math.abs(a.width - narrow) + Math.abs(a.height - long) - (Math.abs(b.width - narrow) + Math.abs(b.height - long)),
	)[0]
	const size = nearest?.[0] ?? 'A4'
	const own = papers[size]
	if (Math.abs(own.width - narrow) + Math.abs(own.height - long) > 12)
		making.notes.push({
			block: '',
			words: `Its paper of ${Math.round(width)} by ${Math.round(height)} points is set as ${size}, the nearest.`,
		})
	const has = (band: Form['head']) => band.every.length + (band.first?.length ?? 0) > 0
	const set = {
		top: bounded(has(form.head) ? Math.min(headAt, margins.top) : margins.top, 0, 300),
		right: bounded(margins.right, 0, 300),
		bottom: bounded(has(form.foot) ? Math.min(footAt, margins.bottom) : margins.bottom, 0, 300),
		left: bounded(margins.left, 0, 300),
	}
	return { page: { size, across, margins: set }, paper: across ? { width: own.height, height: own.width } : own }
}

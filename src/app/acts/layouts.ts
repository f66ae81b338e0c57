'use server'
import { z } from 'zod'
import { no, type Outcome } from '@/core/outcome'
import { isKindName } from '@/kinds'
import { languages } from '@/layout/languages'
import { leavingSchema } from '@/layout/leaving'
import { pictureFaults } from '@/runs/files/untrustedImages'
import { bringLayoutIn } from '@/runs/layouts/layoutFile'
import {
	bringVersionBack,
	chooseLayout,
	dropLayoutDraft,
	giveLayout,
	giveLayoutInRun,
	keepStep,
	makeLayout,
	moveInSteps,
	nameLayout,
	putAway,
	releaseLayout,
} from '@/runs/layouts/layouts'
import { setLeaving } from '@/runs/layouts/leaving'
import { sendTestMessage } from '@/runs/send/testMessage'
import type { Books } from '@/store/books'
import { editStepOf, layoutRow } from '@/store/layouts'
import { act, id, longAct } from './seam'

const kind = z.string().refine(isKindName, 'There is no such kind of paper.')
const from = z.union([
	z.object({
		look: z.string(),
		accent: z
			.string()
			.regex(/^[0-9a-f]{6}$/)
			.optional(),
	}),
	z.object({ layout: id }),
	z.object({ nothing: z.literal(true) }),
])

export const newLayout = act(
	z.tuple([kind, z.string(), from]),
	({ books, desk }, of, name, base) => makeLayout(books, desk, of, name, base),
	true,
)
export const keepLayout = act(
	z.tuple([id, z.number().int(), z.string(), z.string().max(200)]),
	({ books, desk }, layout, after, body, words) => keepStep(books, desk, layout, after, body, words),
)
export const stepLayout = act(
	z.tuple([id, z.number().int(), z.union([z.literal(1), z.literal(-1)])]),
	({ books }, layout, from, by) => moveInSteps(books, layout, from, by),
)
/** What became of an act, with where the layout stands after it. */
const standing = (books: Books, layout: number, outcome: Outcome): Outcome => {
	const row = layoutRow(books, layout)
	return outcome.ok && row ? { ...outcome, id: editStepOf(row) } : outcome
}
export const throwLayoutAway = act(z.tuple([id, z.number().int()]), ({ books, desk }, layout, from) =>
	standing(books, layout, dropLayoutDraft(books, desk, layout, from)),
)
export const release = longAct(
	z.tuple([id, z.number().int(), z.string()]),
	async ({ books, desk }, layout, step, note) =>
		standing(books, layout, await releaseLayout(books, desk, layout, step, note)),
)
export const bringBack = act(
	z.tuple([id, z.number().int(), z.number().int().positive()]),
	({ books, desk }, layout, from, version) => bringVersionBack(books, desk, layout, from, version),
)
export const renameALayout = act(z.tuple([id, z.string()]), ({ books, desk }, layout, name) =>
	nameLayout(books, desk, layout, name),
)
export const putLayoutAway = act(z.tuple([id]), ({ books, desk }, layout) => putAway(books, desk, layout), true)
export const chooseFor = act(
	z.tuple([kind, id.nullable(), z.enum(['', ...languages]), id.nullable()]),
	({ books, desk }, of, customer, language, layout) =>
		chooseLayout(books, desk, { kind: of, customer, language, layout }),
)
export const giveDraftsLayout = act(
	z.tuple([z.array(id).min(1).max(20_000), id.nullable()]),
	({ books, desk }, drafts, layout) => giveLayout(books, desk, drafts, layout),
)
export const giveRunLayout = act(z.tuple([id, kind, id.nullable()]), ({ books, desk }, run, of, layout) =>
	giveLayoutInRun(books, desk, run, of, layout),
)
export const sendTrial = longAct(z.tuple([id, z.number().int().min(0)]), async ({ books, desk }, layout, paper) => {
	const row = layoutRow(books, layout)
	if (!row || row.away_at) return no('There is no such layout any more.')
	return sendTestMessage(books, desk, row, paper, Number(process.env.NORTH_TALLY_SMTP_PORT ?? 4748))
})
export const setHowPapersLeave = act(z.tuple([kind, leavingSchema]), ({ books, desk }, of, leaving) =>
	setLeaving(books, desk, of, leaving),
)
export const importLayout = longAct(
	z.tuple([z.instanceof(FormData)]),
	async ({ books, desk }, form) => {
		const file = form.get('file')
		if (!(file instanceof File) || file.size === 0) return no('Choose the file of a layout, a ZIP.')
		const wanted = String(form.get('kind') ?? '')
		return bringLayoutIn(
			books,
			desk,
			new Uint8Array(await file.arrayBuffer()),
			isKindName(wanted) ? wanted : undefined,
			pictureFaults,
		)
	},
	true,
)

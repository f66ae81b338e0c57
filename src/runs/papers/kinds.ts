import { no, type Outcome } from '@/core/outcome'
import { kindAsSeen, kindFault, ownKind, type PaperBase, type PaperKindBody, type PaperSource } from '@/core/paperKind'
import { capital } from '@/core/wording'
import { askToLookAgain } from '@/runs/customers/changeCustomer'
import { type Books, inOneStep } from '@/store/books'
import { type Desk, record } from '@/store/events'
import { bringLooksOf } from '@/store/layouts'
import {
	addPaperKind,
	allPaperKinds,
	type PaperKindRow,
	papersOfKind,
	putKindAway,
	readPaperKind,
	setPaperKind,
	takeKindBack,
} from '@/store/paperKinds'

// The kinds of paper that a firm makes: made, changed, taken away and taken back.

const built = ['invoice', 'credit note', 'statement', 'invoices', 'credit notes', 'statements']

/** The kind, of the program or of the firm, that has a name already; null for none. */
function namedSo(books: Books, name: string, but: number): string | null {
	const same = (other: string) => other.localeCompare(name, 'en', { sensitivity: 'accent' }) === 0
	if (built.some(same)) return 'the program’s own'
	const other = allPaperKinds(books).find((kind) => kind.id !== but && [kind.name, kind.several].some(same))
	return other ? `“${other.name}”` : null
}

function faultOf(books: Books, base: PaperBase, source: PaperSource, body: PaperKindBody, but: number): string {
	for (const name of [body.name, body.several]) {
		const other = namedSo(books, name, but)
		if (other) return `There is a kind of paper “${name}” already (${other}). Choose another name.`
	}
	return kindFault(base, source, body)
}

/** Makes a kind of paper; it begins with the shipped looks, and with a letter of its own. */
export function makeKind(books: Books, desk: Desk, base: PaperBase, source: PaperSource, body: PaperKindBody): Outcome {
	return inOneStep(books, (): Outcome => {
		const fault = faultOf(books, base, source, body, 0)
		if (fault) return no(fault)
		const id = addPaperKind(books, desk, base, source, body)
		bringLooksOf(books, ownKind(base, id))
		record(books, desk, { subject: 'paper kind', id, act: 'made a kind of paper', detail: body.name, after: body })
		return { ok: true, id }
	})
}

/**
 * Changes a kind. Papers that are issued keep what they say; drafts get the new names when they are looked at again.
 * @param seen the kind as the clerk had it in view (`kindAsSeen`); what another clerk changed since is not overwritten
 */
export function changeKind(books: Books, desk: Desk, id: number, body: PaperKindBody, seen?: string): Outcome {
	return inOneStep(books, (): Outcome => {
		const kind = readPaperKind(books, id)
		if (!kind || kind.away_at) return no('There is no such kind of paper any more.')
		if (seen !== undefined && seen !== kindAsSeen(kind))
			return no(
				'Somebody changed this kind since you opened it. Read the page anew, and make your change on what stands there now.',
			)
		const fault = faultOf(books, kind.base, kind.records, body, id)
		if (fault) return no(fault)
		if (body.numbered !== kind.numbered && papersOfKind(books, kind.key).issued > 0)
			return no(
				`${capital(kind.several)} were issued ${kind.numbered ? 'with numbers' : 'without numbers'} already, and theirs must not differ. Make another kind for those that are to have ${kind.numbered ? 'none' : 'them'}.`,
			)
		setPaperKind(books, id, body)
		record(books, desk, {
			subject: 'paper kind',
			id,
			act: 'changed a kind of paper',
			detail: kind.name === body.name ? body.name : `${kind.name} → ${body.name}`,
			before: bodyOf(kind),
			after: body,
		})
		askToLookAgain(books, desk, `the kind ${body.name}`)
		return { ok: true }
	})
}

const bodyOf = ({ name, several, names, numbered, stands, becomesOrder, each }: PaperKindRow): PaperKindBody => ({
	...{ name, several, names, numbered, stands, becomesOrder, each },
})

/**
 * Takes a kind away: none of it is made any more. What was issued stays as it was, and can be opened, printed and accepted. Refused while
 * drafts of it are open or issued ones have not left, so that none is forgotten.
 */
export function takeKindAway(books: Books, desk: Desk, id: number, reason: string): Outcome {
	const words = reason.trim()
	if (words === '') return no('Say why it is taken away; the reason is kept.')
	return inOneStep(books, (): Outcome => {
		const kind = readPaperKind(books, id)
		if (!kind || kind.away_at) return no('There is no such kind of paper any more.')
		const { issued, drafts, unsent } = papersOfKind(books, kind.key)
		if (drafts > 0)
			return no(
				`${drafts === 1 ? 'A draft' : `${drafts} drafts`} of this kind ${drafts === 1 ? 'is' : 'are'} open. Issue or drop ${drafts === 1 ? 'it' : 'them'} first.`,
			)
		if (unsent > 0)
			return no(
				`${unsent} issued ${unsent === 1 ? 'one has' : 'ones have'} not left yet. Send, print or file ${unsent === 1 ? 'it' : 'them'} first.`,
			)
		putKindAway(books, desk, id, words)
		record(books, desk, {
			subject: 'paper kind',
			id,
			act: 'took a kind of paper away',
			detail: `${kind.name}: ${words}; ${issued} issued stay`,
		})
		return { ok: true, words: issued > 0 ? `${issued} issued ${kind.several} stay as they are.` : '' }
	})
}

/** Takes a kind back that was taken away, unless another has its name by now. */
export function bringKindBack(books: Books, desk: Desk, id: number): Outcome {
	return inOneStep(books, (): Outcome => {
		const kind = readPaperKind(books, id)
		if (!kind?.away_at) return no('This kind is not taken away.')
		const fault = faultOf(books, kind.base, kind.records, kind, id)
		if (fault) return no(fault)
		takeKindBack(books, id)
		record(books, desk, { subject: 'paper kind', id, act: 'took a kind of paper back', detail: kind.name })
		return { ok: true }
	})
}

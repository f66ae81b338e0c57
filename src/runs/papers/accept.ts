import { broughtBy } from '@/core/brought'
import type { Day } from '@/core/calendar'
import { dayText } from '@/core/calendar'
import { divideBill } from '@/core/divideBill'
import { type BillContent, shownNumber, type Unpriced } from '@/core/document'
import { no, type Outcome } from '@/core/outcome'
import { whyNotAccepted } from '@/core/paperKind'
import { pricedText } from '@/core/price'
import { priceBill } from '@/core/priceBill'
import type { IntakeOrder } from '@/intake/ordersForBooks'
import { sha256 } from '@/intake/sha256'
import { isPaper } from '@/kinds'
import { keepTyped } from '@/runs/drafts/orderForm'
import { type Accepted, acceptedOf, addAccepted } from '@/store/acceptedLines'
import { type Books, inOneStep } from '@/store/books'
import { readCustomer } from '@/store/customers'
import { readAnyDocument } from '@/store/documents'
import { type Desk, record } from '@/store/events'
import { endAcceptance, goingAcceptance, markAccepted } from '@/store/files'
import { addOrder, isOrderNumber } from '@/store/orderIntake'
import { recount, setShared } from '@/store/orders'
import { readPaperKind } from '@/store/paperKinds'
import { papersOf, readRecord, recordOfPaper, whyGone } from '@/store/paperRecords'

export type Acceptance = {
	/** Places of its lines, from 0. */
	lines: number[]
	/** Number of the order; empty for the paper's own. */
	number: string
	day: Day
	/** Why it is accepted after its last day. */
	reason: string
}
type AcceptOutcome = { ok: true; id: number; words: string } | Extract<Outcome, { ok: false }>

/** What of an issued paper can be accepted: its lines, each with the order that it stands on already; why nothing can, else empty. */
export type AcceptView = {
	record: number
	why: string
	until: string
	number: string
	lines: { place: number; description: string; quantity: string; unit: string; net: string; order: Accepted | null }[]
}

/** What of a paper can be accepted into orders, line by line; null where it is no paper of a record. */
export function acceptView(books: Books, documentId: number): AcceptView | null {
	const document = readAnyDocument(books, documentId)
	const of = recordOfPaper(books, documentId)
	const found = of && readRecord(books, of.record_id)
	if (!document || !found || !isPaper(document.content)) return null
	const { content } = document
	const kind = readPaperKind(books, content.paper.id)
	if (!kind?.becomesOrder) return null
	const taken = new Map(acceptedOf(books, found.id).map((one) => [one.line, one]))
	const stands = papersOf(books, found.id).find(({ document_id }) => document_id === documentId)
	const gone = whyGone(books, found)
	return {
		record: found.id,
		why:
			document.number === null
				? 'It is a draft: only what was issued can be accepted.'
				: stands?.stands !== 1
					? `It is ${stands?.place ?? 'gone'}: what its customer has in hand no longer counts.`
					: gone === ''
						? ''
						: `It was ${gone}.`,
		until: content.paper.until,
		number: freeNumber(books, content.number === '' ? String(documentId) : shownNumber(content)),
		lines: content.lines.map(({ description, item, quantity, unit }, place) => ({
			...{ place, quantity, unit, description: description || item },
			net: content.priced.lines[place]?.net ?? '',
			order: taken.get(place) ?? null,
		})),
	}
}

/** A number that no order has: the paper's own, else with the part after it. "QU-7", "QU-7-2" */
function freeNumber(books: Books, wanted: string): string {
	for (let part = 1; ; part++) {
		const number = part === 1 ? wanted : `${wanted}-${part}`
		if (!isOrderNumber(books, number)) return number
	}
}

/**
 * Makes an order of what a customer accepted of a paper: with the prices, discounts and freight of the paper, the work date as its day. It
 * waits to be billed like any other. Each line is accepted once, whichever version it stands on; after the last day only with a reason.
 */
export function acceptPaper(books: Books, desk: Desk, documentId: number, given: Acceptance): AcceptOutcome {
	return inOneStep(books, (): AcceptOutcome => {
		const view = acceptView(books, documentId)
		const document = readAnyDocument(books, documentId)
		if (!view || !document || !isPaper(document.content)) return no('A paper of this kind does not become an order.')
		if (view.why) return no(`It cannot be accepted. ${view.why}`)
		const { content } = document
		const customer = readCustomer(books, document.customer_id)
		if (!customer) return no('Its customer is gone.')
		const taken = acceptedOf(books, view.record)
		const why = whyNotAccepted({
			...given,
			all: view.lines.map(({ place }) => place),
			taken,
			until: view.until,
		})
		if (why === 'after its last day')
			return {
				...no(`It stood until ${dayText(view.until)}. To accept it all the same, say why its prices still count.`),
				ask: 'late',
			}
		if (why) return no(`${why}${billedWords(taken, given.lines)}`)
		const number = given.number.trim() || view.number
		if (isOrderNumber(books, number)) return no(`There is an order ${number} already. Give this one another number.`)
		const lines = [...given.lines].sort((a, b) => a - b)
		const part = partOf(content, taken, lines)
		if (!part) return no('It cannot be priced as it is. Make another version, and accept that.')
		const name = shownNumber(content)
		const paper = content.paper.name
		const late = view.until !== '' && given.day > view.until ? given.reason.trim() : ''
		const typed = { accepted: name, lines: lines.map((line) => line + 1), order: number, reason: late }
		const file = keepTyped(
			books,
			desk,
			`Order ${number}, of ${paper} ${name}`,
			`accepted ${documentId} ${desk.now()}`,
			typed,
		)
		const acceptance = goingAcceptance(books, desk, file)
		const id = addOrder(books, orderOf(part, { number, day: given.day, customerId: customer.id }), {
			file,
			acceptance: acceptance.id,
			apart: '',
			freightTaxCode: part.charges[0]?.taxCode ?? part.lines[0]?.taxCode ?? '',
		})
		const [brings] = broughtBy(part)
		if (brings) setShared(books, id, { ...brings, as: 'agreed' })
		recount(books, id)
		endAcceptance(books, acceptance.id, 'done', `accepted from ${paper} ${name}`)
		markAccepted(books, desk, file, `order ${number}, accepted from ${paper} ${name}`)
		addAccepted(books, desk, { record: view.record, lines, document: documentId, order: id, reason: late })
		const whole = lines.length === view.lines.length
		const detail = `${whole ? 'all' : `${lines.length} of ${view.lines.length}`} lines${late ? `; after its last day: ${late}` : ''}`
		record(books, desk, { subject: 'document', id: documentId, act: `accepted into order ${number}`, detail })
		record(books, desk, { subject: 'order', id, act: `came of ${paper} ${name}`, detail })
		return { ok: true, id, words: `Order ${number} waits to be billed.` }
	})
}

const billedWords = (taken: Accepted[], lines: number[]): string => {
	const bills = [
		...new Set(taken.flatMap(({ line, bill, billed }) => (lines.includes(line) && billed === 1 && bill ? [bill] : []))),
	]
	return bills.length === 0 ? '' : ` It is billed on ${bills.join(', ')}.`
}

/**
 * What of a paper some of its lines are, with their share of its discounts and freight. What was accepted before is taken off first, part by
 * part as it was accepted, so that all parts together come to the whole.
 */
function partOf(whole: BillContent, taken: Accepted[], lines: number[]): BillContent | null {
	let rest: BillContent | null = whole
	let places = whole.lines.map((_, place) => place)
	for (const order of [...new Set(taken.map(({ order_id }) => order_id))]) {
		const gone = taken.filter(({ order_id }) => order_id === order).map(({ line }) => line)
		const takenOff = new Set(places.flatMap((place, at) => (gone.includes(place) ? [at] : [])))
		if (rest === null || takenOff.size === 0) continue
		rest = priced(divideBill(rest, takenOff).stays)
		places = places.filter((place) => !gone.includes(place))
	}
	if (rest === null || places.length === lines.length) return rest
	const takenOff = new Set(places.flatMap((place, at) => (lines.includes(place) ? [at] : [])))
	return priced(divideBill(rest, takenOff).leaves)
}

function priced(content: Unpriced): BillContent | null {
	const reckoned = priceBill(content)
	return reckoned.ok ? { ...content, priced: pricedText(reckoned.value) } : null
}

/** The order that a part of a paper is; discounts and freight come as its share. */
function orderOf(
	part: BillContent,
	{ number, day, customerId }: { number: string; day: Day; customerId: number },
): IntakeOrder {
	const [source] = part.orders
	const lines = part.lines.map((line, place) => ({
		sourceRow: place + 1,
		item: line.item,
		description: line.description,
		quantity: line.quantity,
		unit: line.unit,
		unitPrice: line.unitPrice,
		pricePer: line.pricePer,
		discountPercent: line.discountPercent,
		discountAmount: line.discountAmount ?? '',
		taxCode: line.taxCode,
		own: JSON.stringify(line.own ?? {}),
		lookedUp: '',
	}))
	return {
		...{ number, customerId, day, currency: part.currency },
		purchaseOrder: source?.purchaseOrder ?? '',
		note: '',
		...{ discountPercent: '0', discountAmount: '', discountLabel: '', freight: '0', freightPercent: '' },
		delivery: (source?.delivery ?? []).join('\n'),
		own: JSON.stringify(source?.own ?? {}),
		lookedUp: '',
		lines: lines as IntakeOrder['lines'],
		net: 0n,
		sameAs: sha256(JSON.stringify([customerId, part.currency, lines])),
	}
}

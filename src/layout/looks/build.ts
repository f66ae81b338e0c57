import type { PaperKind } from '../fieldTypes'
import type { Said } from '../languages'
import { languages } from '../languages'
import type { LinesPiece } from '../pieces/linesSchema'
import type { Layout, Piece } from '../schema'
import type { Condition, Format, Inline, Paragraph, Test } from '../schemaParts'
import { word } from '../words'

// What shipped looks are put together with.

type Style = { bold?: boolean; italic?: boolean; size?: number; color?: string; display?: boolean }

/** Words that are the same in every language, or given in each. */
export const text = (said: Said, style: Style = {}): Inline => ({ text: said, ...style })
/** A word that papers say, in all their languages. */
export const w = (key: string, style: Style = {}): Inline => ({ text: word(key), ...style })
/** A field's value. */
export const f = (
	field: string,
	style: Style & { format?: Format; empty?: Said; before?: Said; after?: Said } = {},
): Inline => ({ field, ...style })

/** A paragraph of runs. */
export const paragraph = (runs: Inline[], more: Omit<Paragraph, 'runs'> = {}): Paragraph => ({ ...more, runs })

/** Words of which only their parts are translated: the same paragraphs in every language. */
export const words = (
	id: string,
	paragraphs: Paragraph[],
	more: Partial<Extract<Piece, { type: 'words' }>> = {},
): Piece => ({ type: 'words', id, says: { en: paragraphs }, ...more })

/** A sentence a language, each with its own order of words and fields. */
const sentences = (
	id: string,
	says: Record<(typeof languages)[number], Inline[]>,
	more: Partial<Extract<Piece, { type: 'words' }>> = {},
): Piece => ({
	type: 'words',
	id,
	says: Object.fromEntries(languages.map((language) => [language, [{ runs: says[language] }]])),
	...more,
})

/** A condition that holds where all tests do. */
export const when = (...all: Test[]): Condition => ({ all })
/** A test of a field. */
export const test = (field: string, is: Test['is'], value?: string): Test => ({
	field,
	is,
	...(value === undefined ? {} : { value }),
})
const fact = (label: string | Said, value: Inline[], condition?: Condition) => ({
	label: typeof label === 'string' ? word(label) : label,
	value,
	...(condition ? { when: condition } : {}),
})

/** Whether a kind of paper lists what was ordered; only a statement does not. */
export const isBill = (kind: PaperKind): boolean => kind !== 'statement'
/** A paper of a kind that the firm made: nothing is to be paid on it. */
export const isOwn = (kind: PaperKind): boolean => kind === 'priced' || kind === 'unpriced'
/** Whether its lines have figures, and come to something. */
export const hasFigures = (kind: PaperKind): boolean => isBill(kind) && kind !== 'unpriced'
/** Columns of lines that have no figures: the others are left out. */
export const withoutFigures = (columns: LinesPiece['columns']): LinesPiece['columns'] =>
	columns.filter(({ id }) => !['price', 'less', 'tax', 'amount'].includes(id))

/** What is asked for, or that nothing is: a sentence for each case, of which one is shown. */
export function payment(id: string, kind: PaperKind, style: Style): Piece[] {
	if (isOwn(kind)) return []
	const amount = f(isBill(kind) ? 'amount-due' : 'past-due')
	const day = f('due-day')
	const number = f('number')
	const customer = f('customer.number')
	if (kind === 'credit-note')
		return [
			sentences(
				`${id}-none`,
				{
					en: [text('Nothing is to be paid: the amount stands to your credit.')],
					de: [text('Es ist nichts zu zahlen: Der Betrag steht zu Ihren Gunsten.')],
					fr: [text('Rien n’est à payer : le montant est porté à votre crédit.')],
					es: [text('No hay nada que pagar: el importe queda a su favor.')],
					nb: [text('Ingenting skal betales: beløpet står til gode hos oss.')],
					nl: [text('U hoeft niets te betalen: het bedrag staat te uwen gunste.')],
				},
				style,
			),
		]
	if (kind === 'invoice')
		return [
			sentences(
				`${id}-ask`,
				{
					en: [text('Please pay '), amount, text(' by '), day, text(', quoting '), number, text('.')],
					de: [text('Bitte zahlen Sie '), amount, text(' bis '), day, text(' unter Angabe von '), number, text('.')],
					fr: [text('Merci de régler '), amount, text(' avant le '), day, text(' en rappelant '), number, text('.')],
					es: [text('Le rogamos pague '), amount, text(' antes del '), day, text(', indicando '), number, text('.')],
					nb: [text('Vi ber om '), amount, text(' innen '), day, text(', merket '), number, text('.')],
					nl: [
						text('Gelieve '),
						amount,
						text(' te betalen vóór '),
						day,
						text(' onder vermelding van '),
						number,
						text('.'),
					],
				},
				{ ...style, when: when(test('amount-due', 'above', '0')) },
			),
			sentences(
				`${id}-none`,
				{
					en: [text('Nothing is to be paid on this document.')],
					de: [text('Auf dieses Dokument ist nichts zu zahlen.')],
					fr: [text('Rien n’est à payer sur ce document.')],
					es: [text('No hay nada que pagar por este documento.')],
					nb: [text('Ingenting skal betales på dette dokumentet.')],
					nl: [text('Op dit document hoeft niets te worden betaald.')],
				},
				{ ...style, when: when(test('amount-due', 'below', '0.0001')) },
			),
		]
	const owed = test('total', 'above', '0')
	return [
		sentences(
			`${id}-late`,
			{
				en: [text('Please pay what is past due, '), amount, text(', now, quoting '), customer, text('.')],
				de: [
					text('Bitte zahlen Sie das Überfällige, '),
					amount,
					text(', sofort, unter Angabe von '),
					customer,
					text('.'),
				],
				fr: [
					text('Merci de régler dès maintenant les montants échus, '),
					amount,
					text(', en rappelant '),
					customer,
					text('.'),
				],
				es: [text('Le rogamos pague ya lo vencido, '), amount, text(', indicando '), customer, text('.')],
				nb: [text('Vi ber om det som er forfalt, '), amount, text(', nå, merket '), customer, text('.')],
				nl: [
					text('Gelieve het vervallen bedrag, '),
					amount,
					text(', nu te betalen onder vermelding van '),
					customer,
					text('.'),
				],
			},
			{ ...style, when: when(owed, test('past-due', 'above', '0')) },
		),
		sentences(
			`${id}-due`,
			{
				en: [text('Nothing is past due. Please pay each item by its due date, quoting '), customer, text('.')],
				de: [
					text('Nichts ist überfällig. Bitte zahlen Sie jeden Posten bis zu seiner Fälligkeit unter Angabe von '),
					customer,
					text('.'),
				],
				fr: [text('Rien n’est échu. Merci de régler chaque poste à son échéance en rappelant '), customer, text('.')],
				es: [
					text('Nada está vencido. Le rogamos pague cada partida en su vencimiento, indicando '),
					customer,
					text('.'),
				],
				nb: [text('Ingenting er forfalt. Vi ber om at hver post betales innen forfall, merket '), customer, text('.')],
				nl: [
					text('Niets is vervallen. Gelieve elke post vóór de vervaldatum te betalen onder vermelding van '),
					customer,
					text('.'),
				],
			},
			{ ...style, when: when(owed, test('past-due', 'below', '0.0001')) },
		),
		sentences(
			`${id}-none`,
			{
				en: [text('Nothing is to be paid on this statement.')],
				de: [text('Auf diesen Kontoauszug ist nichts zu zahlen.')],
				fr: [text('Rien n’est à payer sur ce relevé.')],
				es: [text('No hay nada que pagar en este estado.')],
				nb: [text('Ingenting skal betales på denne utskriften.')],
				nl: [text('Op dit overzicht hoeft niets te worden betaald.')],
			},
			{ ...style, when: when(test('total', 'below', '0.0001')) },
		),
	]
}
/** When something is to be paid on a paper of the kind. */
export const toPay = (kind: PaperKind): Condition => when(test(isBill(kind) ? 'amount-due' : 'total', 'above', '0'))

/** What does not count as late, in words, below the steps of lateness. */
export const apart = (style: Style): Piece[] => [
	sentences(
		'left-out',
		{
			en: [text('Not listed: '), f('unapplied'), text(' to your credit. They are taken off the amounts above.')],
			de: [
				text('Nicht aufgeführt: '),
				f('unapplied'),
				text(' zu Ihren Gunsten. Sie sind von den Beträgen oben abgezogen.'),
			],
			fr: [text('Non détaillés : '), f('unapplied'), text(' en votre faveur, déduits des montants ci-dessus.')],
			es: [text('No detallados: '), f('unapplied'), text(' a su favor, descontados de los importes de arriba.')],
			nb: [text('Ikke oppført: '), f('unapplied'), text(' til gode. De er trukket fra beløpene over.')],
			nl: [
				text('Niet vermeld: '),
				f('unapplied'),
				text(' te uwen gunste. Ze zijn van de bedragen hierboven afgetrokken.'),
			],
		},
		{ ...style, above: 4, when: when(test('credits', 'is', 'left out')) },
	),
	sentences(
		'promised',
		{
			en: [f('promised'), text(' of what is past due is promised, and not asked for again.')],
			de: [f('promised'), text(' des Überfälligen sind zugesagt und werden nicht noch einmal verlangt.')],
			fr: [f('promised'), text(' des montants échus sont promis et ne sont pas réclamés de nouveau.')],
			es: [f('promised'), text(' de lo vencido está prometido y no se pide de nuevo.')],
			nb: [f('promised'), text(' av det forfalte er lovet, og kreves ikke på nytt.')],
			nl: [f('promised'), text(' van het vervallene is toegezegd en wordt niet opnieuw gevraagd.')],
		},
		{ ...style, when: when(test('promised', 'above', '0')) },
	),
	sentences(
		'unapplied',
		{
			en: [f('unapplied'), text(' stand to your credit and are not yet applied.')],
			de: [f('unapplied'), text(' stehen zu Ihren Gunsten und sind noch nicht verrechnet.')],
			fr: [f('unapplied'), text(' sont en votre faveur et pas encore imputés.')],
			es: [f('unapplied'), text(' quedan a su favor, aún sin aplicar.')],
			nb: [f('unapplied'), text(' står til gode og er ennå ikke ført.')],
			nl: [f('unapplied'), text(' staan te uwen gunste en zijn nog niet verrekend.')],
		},
		{ ...style, above: 4, when: when(test('unapplied', 'above', '0'), test('credits', 'is', 'listed')) },
	),
	sentences(
		'disputed',
		{
			en: [f('disputed'), text(' are in dispute and are not counted as past due.')],
			de: [f('disputed'), text(' sind strittig und zählen nicht als überfällig.')],
			fr: [f('disputed'), text(' sont contestés et ne comptent pas comme échus.')],
			es: [f('disputed'), text(' están en disputa y no cuentan como vencidos.')],
			nb: [f('disputed'), text(' er omtvistet og regnes ikke som forfalt.')],
			nl: [f('disputed'), text(' worden betwist en tellen niet als vervallen.')],
		},
		{ ...style, when: when(test('disputed', 'above', '0')) },
	),
]

/** The facts of a bill or a statement, in the order that all looks have them. */
export function factsOf(kind: PaperKind, strong: Style) {
	const number = fact('Number', [f('number', { empty: word('set when numbered'), ...strong })])
	if (kind === 'statement')
		return [
			number,
			fact('As of', [f('day')]),
			fact('Customer number', [f('customer.number')]),
			fact('Amounts in', [f('currency')]),
		]
	if (isOwn(kind))
		return [
			{ ...number, when: when(test('numbered', 'is', 'yes')) },
			fact('Version', [f('version')]),
			fact('Date', [f('day')]),
			fact('Stands until', [f('last-day')]),
			...(kind === 'priced' ? [fact('Terms', [f('terms')])] : []),
			fact('Customer number', [f('customer.number')]),
			fact('Reference', [f('orders')]),
			fact('Your order', [f('your-orders')]),
		]
	return [
		number,
		fact('Revision', [f('revision')]),
		fact(
			'Credits',
			[f('credits.number'), text(' '), w('of'), text(' '), f('credits.day')],
			when(test('credits.number', 'not empty')),
		),
		fact('Reason', [f('reason')]),
		fact('Date', [f('day')]),
		fact('Supplied', [f('supply.from')], when(test('supply.to', 'empty'))),
		fact(
			'Supplied',
			[f('supply.from'), text(' '), w('to'), text(' '), f('supply.to')],
			when(test('supply.to', 'not empty')),
		),
		...(kind === 'invoice' ? [fact('Terms', [f('terms')])] : []),
		fact('Customer number', [f('customer.number')]),
		fact('Your order', [f('your-orders')], when(test('order-count', 'below', '5'))),
	]
}

/** A word with something around it, in all its languages. */
const around = (key: string, first: string, last: string): Said => {
	const said = word(key)
	if (typeof said === 'string') return first + said + last
	return Object.fromEntries(Object.entries(said).map(([language, one]) => [language, first + one + last]))
}
/** A word and a colon before a value. */
export const before = (key: string): Said => around(key, '', ': ')

/** A group's head: "Order 8817 of 6 Oct 2026, your order PO-2069". */
export const orderHead = {
	by: 'line.order.number',
	head: [
		w('Order'),
		text(' '),
		f('line.order.number'),
		text(' '),
		w('of'),
		text(' '),
		f('line.order.day'),
		f('line.order.purchaseOrder', { before: around('your order', ', ', ' ') }),
	] satisfies Inline[],
}

/** A page with its margins, points: top, right, bottom, left. */
export const page = (
	size: Layout['page']['size'],
	top: number,
	right: number,
	bottom: number,
	left: number,
): Layout['page'] => ({
	size,
	across: false,
	margins: { top, right, bottom, left },
})

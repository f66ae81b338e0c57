import { dayText } from '@/core/calendar'
import { plainNumber } from '@/core/decimal'
import { formatMinor } from '@/core/format'
import { type DayFormat, readDay } from '@/core/readDay'
import type { Example } from '@/intake/evidence'
import { fileKinds } from '@/intake/kinds'
import type { DiscountForm, DiscountQuestion } from '@/intake/reading'
import { type DecimalMark, readFigure } from '@/intake/values/figure'
import type { HeadChange } from '@/runs/bringIn/readers'
import type { FileView } from '@/runs/bringIn/view'
import type { Asked, Choice } from './Questions'

const dayGives = (examples: Example[], format: DayFormat): string[] =>
	examples.map(({ value, row }) => {
		const day = readDay(value, format)
		return day ? `${value}: ${dayText(day)}` : `${value}: refused, row ${row}`
	})
const figureGives = (examples: Example[], mark: DecimalMark): string[] =>
	examples.map(({ value, row }) => {
		const read = readFigure(value, mark, 'amount')
		return read.ok ? `${value}: ${read.figure.value}` : `${value}: refused, row ${row}`
	})

/** The questions of a file, in words, with what each answer gives. */
export function askedOf(view: FileView, change: HeadChange | null): Asked[] {
	const { review, open } = view
	const asked: Asked[] = []
	if (open.includes('kind'))
		asked.push({
			key: 'kind',
			title: 'What does the file hold?',
			about: 'Its columns do not tell.',
			choices: fileKinds.map((kind) => ({
				words: kind === 'rows' ? 'rows for papers' : kind,
				gives: [],
				set: { kind },
			})),
		})
	if (open.includes('renamed') && change && view.reading) asked.push(renamed(view, change))
	for (const { name, examples, disagree } of review?.decided.questions ?? []) {
		const mark = review?.decided.decimal ?? 'point'
		if (name === 'days')
			asked.push({
				key: name,
				title: 'Does the day or the month come first?',
				about: disagree
					? 'The file writes days both ways. Those that do not fit the answer are refused.'
					: 'Every day of the file could be read both ways.',
				choices: (['day first', 'month first'] as const).map((days) => ({
					words: days === 'day first' ? 'The day comes first' : 'The month comes first',
					gives: dayGives(examples, days),
					set: { reading: { days } },
				})),
			})
		if (name === 'decimal')
			asked.push({
				key: name,
				title: 'Which mark stands before the decimals?',
				about: disagree
					? 'The file uses both. Figures that do not fit the answer are refused.'
					: 'Its figures could be read both ways.',
				choices: (['point', 'comma'] as const).map((decimal) => ({
					words: decimal === 'point' ? 'A point: 1,250.50' : 'A comma: 1.250,50',
					gives: figureGives(examples, decimal),
					set: { reading: { decimal } },
				})),
			})
		if (name === 'discount' || name === 'orderDiscount')
			asked.push({
				key: name,
				title: `What is the discount of ${name === 'discount' ? 'a line' : 'an order'}?`,
				about: `Neither its column nor a total of the ${name === 'discount' ? 'lines' : 'orders'} says it.`,
				choices: [
					discountChoice('A percent', name, 'percent', examples, (value) => `${value}% off`),
					discountChoice('A share', name, 'share', examples, (value) => `${shareText(value, mark)} off`),
					discountChoice('An amount', name, 'amount', examples, (value) => `${value} in money off`),
				],
			})
	}
	if (open.includes('amended') && view.reading?.kind === 'rows')
		asked.push({
			key: 'amended',
			title: `${view.review?.standings.changed} of these came in with an earlier sheet, and nothing was issued of them`,
			about: 'What was issued stays whatever you say.',
			choices: [
				{
					words: 'These take their place',
					gives: ['the earlier ones are withdrawn, their drafts put away'],
					set: { answers: { amended: 'replace' } },
				},
				{ words: 'Keep both', gives: ['each gets a paper of its own'], set: { answers: { amended: 'leave' } } },
			],
		})
	else if (open.includes('amended'))
		asked.push({
			key: 'amended',
			title: `${view.review?.standings.changed} waiting orders are otherwise in this file`,
			about: 'Nobody billed them yet.',
			choices: [
				{ words: 'Replace them', gives: changesOf(view), set: { answers: { amended: 'replace' } } },
				{ words: 'Leave them as they wait', gives: [], set: { answers: { amended: 'leave' } } },
			],
		})
	if (open.includes('again'))
		asked.push({
			key: 'again',
			title: `${view.review?.standings['of another']} orders have the number of another`,
			about: 'Of another year, or for another customer.',
			choices: [
				{
					words: 'They are other orders',
					gives: view.ofAnother.slice(0, 4).map(({ number, words }) => `${number}: ${words}`),
					set: { answers: { again: 'others' } },
				},
				{
					words: 'They are the same orders',
					gives: ['compared with those that are here'],
					set: { answers: { again: 'same' } },
				},
			],
		})
	if (open.includes('twice'))
		asked.push({
			key: 'twice',
			title: `${view.review?.standings.again} payments look as if they were entered before`,
			about: 'The same customer, day, amount and reference.',
			choices: [
				{ words: 'Leave them out', gives: twins(view), set: { answers: { twice: 'leave' } } },
				{ words: 'Enter them too', gives: [], set: { answers: { twice: 'enter' } } },
			],
		})
	if (review?.extract) asked.push(...extractAsks(view, review.extract))
	return asked
}

/** What an extract leaves open: how its signs are read, money that came in here and there, and whether so much is to be settled. */
function extractAsks({ open, answers }: FileView, extract: ExtractSaid): Asked[] {
	const { unsigned, twins, likely, unanswered, doubts, currencies } = extract
	const asked: Asked[] = []
	const gives = (sign: string) => unsigned.map(({ kind, number, amount }) => `${kind} ${number}: ${sign}${amount}`)
	if (open.includes('signs'))
		asked.push({
			key: 'signs',
			title: 'Who owes the credits and payments of this file?',
			about: 'They all stand without a sign, so that nothing tells whether they are owed to the customer or by them.',
			choices: [
				{ words: 'They are to the customer’s credit', gives: gives('−'), set: { reading: { signs: 'by kind' } } },
				{ words: 'The customer owes them', gives: gives(''), set: { reading: { signs: 'as they stand' } } },
			],
		})
	if (open.includes('pairs')) asked.push(...pairAsks(answers, likely, unanswered))
	if (open.includes('twins'))
		for (const twin of twins.filter(({ id }) => answers.twins[id] === undefined).slice(0, 6)) {
			const money = (minor: number) => `${formatMinor(minor, twin.currency)} ${twin.currency}`
			asked.push({
				key: `twin ${twin.id}`,
				title: `${money(twin.free)} of ${twin.customer}, ${twin.reference} of ${dayText(twin.day)}, was entered here`,
				about: `The file settles ${money(twin.settles)} of theirs. Is it the same money?`,
				choices: (['same', 'other'] as const).map((answer) => ({
					words: answer === 'same' ? 'The same money' : 'Other money',
					gives: [
						answer === 'same'
							? 'it is applied to what the file settles, and counted once'
							: 'it stays to their credit beside it',
					],
					set: { answers: { twins: { ...answers.twins, [twin.id]: answer } } },
				})),
			})
		}
	if (open.includes('doubts')) {
		const said = doubts.map(doubtWords)
		const settles = currencies.filter((sums) => sums.settles > 0).length
		asked.push({
			key: 'doubts',
			title: settles > 0 ? 'Is it whole, and all that is gone to be settled?' : 'Is it whole?',
			about: `${said.join(' ')} Look at what is gone first.`,
			choices: [],
			why: 'Keep this reason',
		})
	}
	return asked
}
/** Why a reason is asked for, in words. */
function doubtWords(doubt: string): string {
	const [what = '', first = '', second = '', third = ''] = doubt.split(' ')
	const money = () => `${formatMinor(Number(second), first)} ${first}`
	const words: Record<string, () => string> = {
		much: () => `It settles ${money()}, ${third}% of what is open in it.`,
		control: () => `Its control total is out by ${money()}: rows are refused, or lost.`,
		ahead: () =>
			`It is of a day after the work date, ${dayText(first)}; no extract before that day is accepted after it.`,
		cut: () => `Its last row, ${first}, breaks off before the others do.`,
		count: () => `It says that it has ${first} rows; ${second} came.`,
		untotalled: () => 'The extract before ended with a total or a count; this one has none.',
		unended: () => 'Its last line has no end, which that of the extract before had.',
		fewer: () => `It has ${first} items; the extract before had ${second}.`,
	}
	return words[what]?.() ?? doubt
}

type Likely = ExtractSaid['likely'][number]
type Side = Likely['here']
const wayTitles: Record<Likely['ways'][number], [one: string, several: string]> = {
	customer: ['is another customer’s in the file', 'are other customers’ in the file'],
	sign: ['is owed the other way in the file', 'are owed the other way in the file'],
	currency: ['is in another currency in the file', 'are in another currency in the file'],
	kind: ['is of another kind in the file', 'are of other kinds in the file'],
	number: ['has a number that is written otherwise', 'have numbers that are written otherwise'],
	void: ['is void here, and open in the file', 'are void here, and open in the file'],
}
/** So many are asked about one by one, beside the question about all of them. */
const oneByOne = 6

/** Items that are likely ones of here: of all that are otherwise in the same way at once, and the first few one by one. */
function pairAsks(answers: FileView['answers'], likely: Likely[], unanswered: number): Asked[] {
	const groups = new Map<string, Likely[]>()
	for (const one of likely) {
		const key = JSON.stringify([one.ways, one.answers])
		groups.set(key, [...(groups.get(key) ?? []), one])
	}
	return [...groups].flatMap(([key, some]): Asked[] => {
		const [first] = some
		if (!first) return []
		const ways = first.ways.map((way) => wayTitles[way][some.length === 1 ? 0 : 1]).join(', ')
		const more = unanswered > likely.length ? ` ${unanswered} in all are asked about, ${likely.length} at a time.` : ''
		const all: Asked = {
			key: `pairs ${key}`,
			title: some.length === 1 ? titleOf(first, ways) : `${some.length} items ${ways}`,
			about: `${some.length === 1 ? aboutPair(first) : some.slice(0, 3).map(aboutPair).join(' ')}${more}`,
			choices: pairChoices(answers, some),
		}
		const single = some.length === 1 ? [] : some.slice(0, oneByOne)
		return [
			all,
			...single.map((one) => ({
				key: `pair ${one.key}`,
				title: `${one.here.number} alone`,
				about: aboutPair(one),
				choices: pairChoices(answers, [one]),
			})),
		]
	})
}

const titleOf = ({ here, there, ways }: Likely, words: string): string =>
	ways.length === 1 && ways[0] === 'number'
		? `${here.number} is written ${there.number} in the file`
		: `${here.number} ${words}`
const sideText = ({ customer, number, kind, day, amount, open, currency }: Side): string =>
	`${customer}, ${kind} ${number} of ${dayText(day)}, ${formatMinor(amount, currency)} ${currency}, ${formatMinor(open, currency)} open`
const aboutPair = ({ here, there, paid }: Likely): string =>
	`Here: ${sideText(here)}${paid > 0 ? `, ${formatMinor(paid, here.currency)} paid on it` : ''}. In the file: ${sideText(there)}.`

/** What may be said of pairs that are alike, each with what would come of it. */
function pairChoices({ pairs }: FileView['answers'], some: Likely[]): Asked['choices'] {
	const [first] = some
	if (!first) return []
	const isVoid = first.ways.includes('void')
	const stays = first.ways.every((way) => way === 'kind' || way === 'number')
	const paid = first.paid > 0 && !stays && !isVoid
	const gives: Record<Likely['answers'][number], [words: string, means: string]> = {
		stays: isVoid
			? ['It stays void', 'What the file has of it is left out.']
			: stays
				? ['The same item', 'What was paid on it here stays paid.']
				: paid
					? ['The same; the file has the payment in it', 'What was paid here is counted there already.']
					: ['The same item', 'It is settled here, and stands as the file has it.'],
		along: ['The same; the payment goes along', 'What was paid here pays it as the file has it.'],
		credit: ['The same; the payment is the payer’s', 'What was paid here stands to the credit of whoever paid it.'],
		other: isVoid
			? ['It is owed all the same', 'The file’s is entered beside the void one.']
			: ['Another item', 'The file’s is new; the one here is gone, or stays where no extract had it.'],
	}
	return first.answers.map((answer) => ({
		words: gives[answer][0],
		means: gives[answer][1],
		gives: [],
		set: { answers: { pairs: { ...pairs, ...Object.fromEntries(some.map(({ key }) => [key, answer])) } } },
	}))
}
type ExtractSaid = NonNullable<NonNullable<FileView['review']>['extract']>

/** A share as its percent: 0,125 is 12.5%. */
function shareText(value: string, mark: DecimalMark): string {
	const read = readFigure(value, mark, 'percent')
	return read.ok ? `${plainNumber(`${read.figure.value}e2`)}%` : value
}

const discountChoice = (
	words: string,
	name: DiscountQuestion,
	form: DiscountForm,
	examples: Example[],
	gives: (value: string) => string,
): Choice => ({
	words,
	gives: examples.map(({ value }) => `${value}: ${gives(value)}`),
	set: { reading: { [name]: form } },
})

const changesOf = (view: FileView): string[] =>
	view.changed.slice(0, 6).map(({ number, words }) => {
		const changes: string[] = JSON.parse(words)
		return `${number}: ${changes.slice(0, 3).join('; ')}`
	})

function twins(view: FileView): string[] {
	return view.records
		.filter(({ standing }) => standing === 'again')
		.slice(0, 4)
		.map(({ brief, first_row }) => {
			const { customer, currency, amount, words } = JSON.parse(brief)
			return `row ${first_row}, ${customer} ${formatMinor(amount, currency)}: ${words}`
		})
}

function renamed({ reading }: FileView, change: HeadChange): Asked {
	const offered = change.gone.filter(({ likely }) => likely)
	const columns = {
		...reading?.columns,
		...Object.fromEntries(offered.flatMap(({ field, likely }) => (likely ? [[field, likely.place]] : []))),
	}
	return {
		key: 'renamed',
		title: 'The head of the file has changed since the last one',
		about: change.gone
			.filter(({ asked }) => asked)
			.map(({ label, name }) => `${label} stood under “${name}”, which is not there.`)
			.join(' '),
		choices: [
			...(offered.length > 0
				? [
						{
							words: offered.length === 1 ? 'Take the likely column' : 'Take the likely columns',
							gives: offered.map(({ label, likely }) => `${label}: “${likely?.name}”`),
							set: { reading: { columns } },
						} satisfies Choice,
					]
				: []),
			{ words: 'I say which is which below', gives: [], set: { answers: { renamed: true } } },
		],
	}
}

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
function extractAsks({ open, answers }: FileView, { unsigned, twins, doubts, currencies }: ExtractSaid): Asked[] {
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
		const said = doubts.map((doubt) => {
			const [what, currency = '', amount = '', share = ''] = doubt.split(' ')
			const money = `${formatMinor(Number(amount), currency)} ${currency}`
			return what === 'much'
				? `It settles ${money}, ${share}% of what is open in it.`
				: `Its control total is out by ${money}: rows are refused, or lost.`
		})
		const settles = currencies.filter((sums) => sums.settles > 0).length
		asked.push({
			key: 'doubts',
			title: settles > 0 ? 'Is so much to be settled?' : 'Is it whole?',
			about: `${said.join(' ')} Look at what is gone first; a file that was cut off looks like this.`,
			choices: [],
			why: 'Keep this reason',
		})
	}
	return asked
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

'use client'
import { useState } from 'react'
import { itemsPath } from '@/app/accountQuery'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { ItemBrief } from '@/runs/bringIn/kinds/openItems'
import type { Review } from '@/runs/bringIn/review'
import type { PairAnswer } from '@/runs/extract/likely'
import type { SheetRecord } from '@/store/outcomes'
import { Chip, type Tone } from '@/ui/Chip'
import type { Column } from '@/ui/column'
import Link from '@/ui/Link'
import { Section } from '@/ui/Page'
import { ScrollBox } from '@/ui/ScrollBox'
import { Table } from '@/ui/Table'

type Extract = NonNullable<Review['extract']>
type Currency = Extract['currencies'][number]
type Standing = 'likely item' | 'new item' | 'changed item' | 'gone' | 'not in it' | 'left as it is' | 'same item'
type Pick = { standing: Standing; currency: string } | null
type Row = SheetRecord & ItemBrief

const tones: Record<Standing, Tone> = {
	...{ 'new item': 'quiet', 'changed item': 'look', gone: 'tie', 'not in it': 'look', 'left as it is': 'stop' },
	'same item': 'quiet',
	'likely item': 'stop',
}
const names: Record<Standing, string> = {
	...{ 'new item': 'new', 'changed item': 'changed', gone: 'gone', 'not in it': 'here, not there' },
	...{ 'left as it is': 'left as it is', 'same item': 'the same', 'likely item': 'asked about' },
}
/** What makes the ledger before into the ledger after, in the order in which it is read; each leads to its items. */
/** What each adds to the ledger; `stays` is what is named with it and adds nothing. */
const parts: {
	standing: Standing
	label: string
	of: (sums: Currency) => number
	stays?: (sums: Currency) => number
}[] = [
	{ standing: 'new item', label: 'New', of: ({ added }) => added },
	{ standing: 'changed item', label: 'Changed', of: ({ changed }) => changed },
	{ standing: 'gone', label: 'Gone', of: ({ gone, same }) => gone + same },
	{
		standing: 'not in it',
		label: 'Here, not there',
		of: ({ hereSettled }) => hereSettled,
		stays: ({ here, hereSettled }) => here + hereSettled,
	},
]

/** What an extract does to the ledger, a currency a line: what it had, what is new, changed, gone, and what it will have; then every item of it. */
export function ExtractSays({
	records,
	review,
	accepted,
}: {
	records: SheetRecord[]
	review: Review
	accepted: boolean
}) {
	const [pick, setPick] = useState<Pick>(null)
	const { extract, standings } = review
	if (!extract || extract.hindered) return null
	const { asOf, previous, currencies } = extract
	const rows = records
		.map((record): Row => ({ ...record, ...(JSON.parse(record.brief) as ItemBrief) }))
		.filter(({ standing, currency }) =>
			pick === null ? standing !== 'same item' : standing === pick.standing && currency === pick.currency,
		)
	const all = pick === null ? rows.length : (standings[pick.standing] ?? 0)
	const count = (standing: Standing) => standings[standing] ?? 0
	return (
		<>
			{!accepted && (
				<Section
					title="The ledger before and after"
					aside={`as of ${dayText(asOf)}; ${previous ? `the one before was as of ${dayText(previous)}` : 'the first of its kind here'}`}
				>
					<Table
						label="The ledger before and after"
						rows={currencies}
						rowKey={({ currency }) => currency}
						columns={sumColumns(asOf, pick, setPick)}
					/>
					<FileTies currencies={currencies} />
				</Section>
			)}
			<Section
				title={
					pick === null
						? `${count('new item')} new, ${count('changed item')} changed, ${count('gone')} gone`
						: `${names[pick.standing]}, ${pick.currency}`
				}
				aside={
					<>
						{pick === null
							? `${count('same item')} the same${count('not in it') > 0 ? `; ${count('not in it')} here and not in it` : ''}. Items whose row is refused or left out are left as they are.`
							: `${rows.length} items${all > rows.length && currencies.length === 1 ? `, the first of ${all}` : ''} `}
						{pick !== null && (
							<button type="button" className="text-plum underline" onClick={() => setPick(null)}>
								Show all
							</button>
						)}
					</>
				}
			>
				<ScrollBox label="What is new, changed and gone" height={320}>
					<Table label="What is new, changed and gone" rows={rows} rowKey={({ seq }) => seq} columns={itemColumns} />
				</ScrollBox>
			</Section>
		</>
	)
}

function sumColumns(asOf: string, pick: Pick, onPick: (pick: Pick) => void): Column<Currency>[] {
	const money = (minor: number, currency: string, sign: boolean) =>
		minor === 0 ? (
			<span className="text-mute">0</span>
		) : (
			`${sign && minor > 0 ? '+' : ''}${formatMinor(minor, currency)}`
		)
	return [
		{ key: 'currency', label: '', width: '56px', cell: ({ currency }) => <span className="figures">{currency}</span> },
		{
			key: 'had',
			label: 'The ledger has',
			figures: true,
			cell: ({ had, currency }) => (
				<Link href={itemsPath({ asOf, only: '', of: '', currency, bucket: '' })} className="hover:underline">
					{formatMinor(had, currency)}
				</Link>
			),
		},
		...parts.map(
			({ standing, label, of, stays }): Column<Currency> => ({
				key: standing,
				label,
				figures: true,
				cell: (sums) => {
					const { currency } = sums
					const [adds, stay] = [of(sums), stays?.(sums) ?? 0]
					const chosen = pick?.standing === standing && pick.currency === currency
					return (
						<button
							type="button"
							aria-pressed={chosen}
							className={`hover:underline ${chosen ? 'font-semibold text-plum underline' : ''}`}
							onClick={() => onPick(chosen ? null : { standing, currency })}
						>
							{(adds !== 0 || stay === 0) && money(adds, currency, true)}
							{stay !== 0 && ` ${formatMinor(stay, currency)} stays`}
						</button>
					)
				},
			}),
		),
		{
			key: 'will',
			label: 'It will have',
			figures: true,
			cell: ({ will, currency }) => <span className="font-semibold">{formatMinor(will, currency)}</span>,
		},
		{
			key: 'tie',
			label: '',
			width: '80px',
			cell: ({ had, added, changed, gone, hereSettled, same, will }) =>
				had + added + changed + gone + hereSettled + same === will ? (
					<Chip tone="tie">ties</Chip>
				) : (
					<Chip tone="stop">out</Chip>
				),
		},
	]
}

/** What the file comes to beside what the ledger will have: its rows, what is here beside it, what is left, and its own control total. */
function FileTies({ currencies }: { currencies: Currency[] }) {
	return (
		<div className="px-5 py-2 text-sm text-mute">
			{currencies.map(({ currency, file, items, here, hereSettled, left, same, will, control }) => {
				const beside = here + hereSettled
				const money = (minor: number) => <span className="figures text-ink">{formatMinor(minor, currency)}</span>
				return (
					<p key={currency} className="flex flex-wrap items-center gap-x-2">
						<span className="figures">{currency}</span> {`${items} items of the file`} {money(file)}
						{beside !== 0 && <span>+ here and not there {money(beside)}</span>}
						{left !== 0 && <span>+ left as it is here {money(left)}</span>}
						{same !== 0 && <span>+ paid here with the same money {money(same)}</span>}
						<span>= {money(will)}</span>
						{control !== null &&
							(control === file ? (
								<Chip tone="tie">its control total ties</Chip>
							) : (
								<Chip tone="stop">{`its control total is ${formatMinor(control, currency)}, out by ${formatMinor(control - file, currency)}`}</Chip>
							))}
						{control === null && <span>It has no control total.</span>}
					</p>
				)
			})}
		</div>
	)
}

/** Where the money goes that was paid here on an item that is otherwise in the file. */
const paidWords: Record<PairAnswer, string> = {
	stays: 'in the file already',
	along: 'goes along',
	credit: 'to the payer’s credit',
	other: '',
}

const itemColumns: Column<Row>[] = [
	{
		key: 'what',
		label: 'What',
		width: '120px',
		cell: ({ standing }) => (
			<Chip tone={tones[standing as Standing] ?? 'quiet'}>{names[standing as Standing] ?? standing}</Chip>
		),
	},
	{ key: 'customer', label: 'Customer', cell: ({ customer }) => customer },
	{
		key: 'number',
		label: 'Number',
		cell: ({ key, numberWas }) => (
			<>
				<span className="figures">{key}</span>
				{numberWas !== undefined && numberWas !== key && <span className="block text-mute">{`${numberWas} here`}</span>}
			</>
		),
	},
	{ key: 'kind', label: 'Kind', width: '90px', cell: ({ kind }) => kind },
	{
		key: 'due',
		label: 'Due',
		cell: ({ due, dueWas, dayWas, day, from, amount, currency, kindWas, ways, paid, answer, currencyWas }) => (
			<>
				{dueWas && <span className="text-mute">{`${dayText(dueWas)} → `}</span>}
				{dayText(due)}
				{dayWas && day && <span className="block text-mute">{`dated ${dayText(dayWas)} → ${dayText(day)}`}</span>}
				{from && <span className="block text-mute">{`from ${from}`}</span>}
				{kindWas && <span className="block text-mute">{`${kindWas} here`}</span>}
				{ways?.includes('void') && <span className="block text-mute">void here</span>}
				{(paid ?? 0) > 0 && currencyWas === currency && (
					<span className="block text-mute">{`paid here ${formatMinor(paid ?? 0, currency)}${answer ? `: ${paidWords[answer]}` : ''}`}</span>
				)}
				{currencyWas !== undefined && currencyWas !== currency && (
					<span className="block text-mute">{`in ${currencyWas} here`}</span>
				)}
				{amount && (currencyWas ?? currency) === currency && (
					<span className="block text-mute">{`amount ${formatMinor(amount[0], currency)} → ${formatMinor(amount[1], currency)}`}</span>
				)}
			</>
		),
	},
	{
		key: 'was',
		label: 'Open here',
		figures: true,
		cell: ({ was, currency, currencyWas }) =>
			was === null
				? ''
				: `${formatMinor(was, currencyWas ?? currency)}${currencyWas && currencyWas !== currency ? ` ${currencyWas}` : ''}`,
	},
	{
		key: 'is',
		label: 'Open in the file',
		figures: true,
		cell: ({ is, currency }) => (is === null ? '' : formatMinor(is, currency)),
	},
	{ key: 'currency', label: '', width: '60px', cell: ({ currency }) => <span className="figures">{currency}</span> },
]

'use client'
import { type ButtonHTMLAttributes, useState, useTransition } from 'react'
import { applyTo, dispute, removeItem, unapply, undoOnAccount, writeItemOff } from '@/app/acts/account'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { AccountItem } from '@/runs/receivables/account'
import type { Happening } from '@/runs/receivables/history'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { Chip, type Tone } from '@/ui/Chip'
import type { Column } from '@/ui/column'
import { TextField } from '@/ui/Field'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { ScrollBox } from '@/ui/ScrollBox'
import { Table } from '@/ui/Table'
import { WhyAsk } from '@/ui/WhyAsk'
import { chosenOf, DebitChoice } from './DebitChoice'
import { RefundAsk, ReturnedAsk } from './MoreAsks'
import { PaymentForm, type Wrong } from './PaymentAsk'

type Outcome = { ok: true } | { ok: false; message: string }
type Asking = { what: 'dispute' | 'write off' | 'apply' | 'refund'; item: AccountItem } | null

function useActs() {
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const act = (work: () => Promise<Outcome>, then?: () => void) =>
		start(async () => {
			const outcome = await answered(work())
			setTrouble(outcome.ok ? '' : outcome.message)
			if (outcome.ok) then?.()
		})
	return { trouble, busy, act }
}

function toneOf(item: AccountItem): Tone {
	if (item.disputed) return 'look'
	if (item.side === 'credit') return 'tie'
	return item.daysPastDue > 0 ? 'stop' : 'quiet'
}

type OpenProps = { items: AccountItem[]; debits: AccountItem[]; currency: string; asOf: string; today: string }

/** What is open of an account, each item with why it stands where it does and what may be done with it. */
export function OpenItems({ items, debits, currency, asOf, today }: OpenProps) {
	const [asking, setAsking] = useState<Asking>(null)
	const { trouble, busy, act } = useActs()
	const close = () => setAsking(null)
	const columns: Column<AccountItem>[] = [
		{
			key: 'number',
			label: 'Number',
			cell: ({ number, document_id }) =>
				document_id ? (
					<Link href={`/documents/${document_id}`} className="figures text-plum underline">
						{number}
					</Link>
				) : (
					<span className="figures">{number}</span>
				),
		},
		{ key: 'kind', label: 'Kind', cell: ({ kind, called }) => called || kind },
		{ key: 'day', label: 'Date', cell: ({ day }) => dayText(day) },
		{ key: 'due', label: 'Due', cell: ({ due_day, side }) => (side === 'debit' ? dayText(due_day) : '') },
		{ key: 'po', label: 'Their order', cell: ({ their_order }) => their_order },
		{ key: 'amount', label: 'Amount', figures: true, cell: ({ amount }) => formatMinor(amount, currency) },
		{
			key: 'open',
			label: 'Open',
			figures: true,
			cell: ({ open }) => <span className="font-semibold">{formatMinor(open, currency)}</span>,
		},
		{
			key: 'why',
			label: `On ${dayText(asOf)}`,
			cell: (item) => (
				<Chip tone={toneOf(item)}>{item.dispute && item.disputed ? `${item.why}: ${item.dispute}` : item.why}</Chip>
			),
		},
		{
			key: 'acts',
			label: '',
			cell: (item) =>
				item.openNow === 0 ? (
					''
				) : (
					<span className="flex justify-end gap-3 whitespace-nowrap">
						{item.side === 'credit' ? (
							<>
								{debits.length > 0 && <Act onClick={() => setAsking({ what: 'apply', item })}>Apply</Act>}
								<Act onClick={() => setAsking({ what: 'refund', item })}>Refund</Act>
							</>
						) : (
							<Act
								disabled={busy}
								onClick={() => (item.dispute ? act(() => dispute(item.id, '')) : setAsking({ what: 'dispute', item }))}
							>
								{item.dispute ? 'End the dispute' : 'Dispute'}
							</Act>
						)}
						<Act onClick={() => setAsking({ what: 'write off', item })}>Write off</Act>
					</span>
				),
		},
	]
	return (
		<>
			{trouble && (
				<div className="px-5 pb-2">
					<Notice tone="stop">{trouble}</Notice>
				</div>
			)}
			<Table label={`Open items in ${currency}`} columns={columns} rows={items} rowKey={({ id }) => id} />
			{(asking?.what === 'dispute' || asking?.what === 'write off') && (
				<WhyAsk
					title={
						asking.what === 'dispute'
							? `${asking.item.number} is in dispute`
							: `Write off what is open of ${asking.item.number}?`
					}
					about={
						asking.what === 'dispute'
							? 'It stays owed, but counts as past due no more until the dispute is ended.'
							: 'An adjustment is entered and applied to it as of the work date. Taken back, it is owed again.'
					}
					label={asking.what === 'dispute' ? 'What it is about' : 'Why'}
					yes={asking.what === 'dispute' ? 'Note the dispute' : 'Write it off'}
					kind={asking.what === 'dispute' ? 'main' : 'grave'}
					onClose={close}
					act={(why) => (asking.what === 'dispute' ? dispute(asking.item.id, why) : writeItemOff(asking.item.id, why))}
				/>
			)}
			{asking?.what === 'refund' && (
				<RefundAsk credit={asking.item} currency={currency} today={today} onClose={close} />
			)}
			{asking?.what === 'apply' && (
				<ApplyAsk
					credit={asking.item}
					debits={debits}
					currency={currency}
					busy={busy}
					onClose={close}
					onApply={(to) => act(() => applyTo(asking.item.id, to), close)}
				/>
			)}
		</>
	)
}

/** A small act within a row. */
const Act = (props: ButtonHTMLAttributes<HTMLButtonElement>) => (
	<button type="button" className="text-plum hover:underline disabled:text-mute" {...props} />
)

type ApplyProps = {
	credit: AccountItem
	debits: AccountItem[]
	currency: string
	busy: boolean
	onClose: () => void
	onApply: (to: 'oldest' | number[] | { reference: string }) => void
}

/** What a credit goes to: the oldest due, or the items chosen, in their order. */
function ApplyAsk({ credit, debits, currency, busy, onClose, onApply }: ApplyProps) {
	return (
		<Ask
			open
			onClose={onClose}
			title={`Apply ${formatMinor(credit.openNow, currency)} ${currency} of ${credit.number}`}
			wide
		>
			<form
				className="space-y-3"
				onSubmit={(event) => {
					event.preventDefault()
					const form = new FormData(event.currentTarget)
					const chosen = chosenOf(form, debits)
					const reference = String(form.get('reference') ?? '').trim()
					onApply(chosen.length > 0 ? chosen : reference === '' ? 'oldest' : { reference })
				}}
			>
				<TextField
					label="To the numbers in this reference"
					name="reference"
					autoFocus
					help="Such as SK-1048/SK-1050; with none named or chosen it goes to the oldest due first"
				/>
				<DebitChoice debits={debits} currency={currency} />
				<Button kind="main" type="submit" disabled={busy}>
					Apply it
				</Button>
			</form>
		</Ask>
	)
}

type HistoryProps = {
	happenings: Happening[]
	currency: string
	customer: number
	today: string
	debits: AccountItem[]
}
type Doing = { what: 'remove' | 'correct' | 'came back'; happening: Happening } | null

/** What happened on an account, the latest first, with the balance after it; what a person did is undone from here. */
export function HistoryOf({ happenings, currency, customer, today, debits }: HistoryProps) {
	const { trouble, busy, act } = useActs()
	const [doing, setDoing] = useState<Doing>(null)
	const close = () => setDoing(null)
	const payment = doing?.happening
	const wrong: Wrong | null =
		payment?.payment == null
			? null
			: {
					id: payment.payment,
					...{ day: payment.day, amount: formatMinor(-(payment.change ?? 0), currency).replaceAll(',', '') },
					...{ currency, reference: payment.words },
				}
	const columns: Column<Happening>[] = [
		{ key: 'day', label: 'Date', width: '110px', cell: ({ day }) => dayText(day) },
		{ key: 'kind', label: 'What', width: '130px', cell: ({ called }) => called },
		{
			key: 'words',
			label: '',
			cell: ({ words, document_id }) =>
				document_id ? (
					<Link href={`/documents/${document_id}`} className="figures text-plum underline">
						{words}
					</Link>
				) : (
					words
				),
		},
		{
			key: 'change',
			label: 'Amount',
			figures: true,
			cell: ({ change }) => (change === null ? '' : formatMinor(change, currency)),
		},
		{
			key: 'balance',
			label: 'Balance',
			figures: true,
			cell: ({ balance }) => <span className="font-semibold">{formatMinor(balance, currency)}</span>,
		},
		{
			key: 'acts',
			label: '',
			width: '210px',
			cell: (happening) => (
				<span className="flex justify-end gap-3 whitespace-nowrap">
					{happening.application !== null && (
						<Act disabled={busy} onClick={() => act(() => unapply(happening.application ?? 0))}>
							Take it back
						</Act>
					)}
					{happening.act !== null && (
						<Act disabled={busy} onClick={() => act(() => undoOnAccount(happening.act ?? 0))}>
							Undo
						</Act>
					)}
					{happening.payment !== null && (
						<Act onClick={() => setDoing({ what: 'came back', happening })}>Came back</Act>
					)}
					{happening.payment !== null && happening.item !== null && (
						<Act onClick={() => setDoing({ what: 'correct', happening })}>Correct</Act>
					)}
					{happening.item !== null && <Act onClick={() => setDoing({ what: 'remove', happening })}>Remove</Act>}
				</span>
			),
		},
	]
	return (
		<>
			{trouble && (
				<div className="px-5 pb-2">
					<Notice tone="stop">{trouble}</Notice>
				</div>
			)}
			<ScrollBox label={`History in ${currency}`} height={300}>
				<Table
					label={`History in ${currency}`}
					columns={columns}
					rows={[...happenings].reverse()}
					rowKey={({ key }) => key}
				/>
			</ScrollBox>
			{doing?.what === 'remove' && (
				<WhyAsk
					title={`Remove ${doing.happening.words}?`}
					about="It counts no more from the work date on, and what it paid is owed again. The days before stay as they were; it can be undone."
					yes="Remove it"
					kind="grave"
					onClose={close}
					act={(why) => removeItem(doing.happening.item ?? 0, why)}
				/>
			)}
			{doing?.what === 'came back' && payment?.payment != null && (
				<ReturnedAsk
					payment={{ id: payment.payment, number: payment.words }}
					currency={currency}
					today={today}
					onClose={close}
				/>
			)}
			{doing?.what === 'correct' && wrong && (
				<Ask open onClose={close} title={`Put ${wrong.reference} right`} wide>
					<PaymentForm
						customer={customer}
						today={today}
						accounts={[{ currency, debits }]}
						wrong={wrong}
						onDone={close}
					/>
				</Ask>
			)}
		</>
	)
}

'use client'
import Link from 'next/link'
import { type ButtonHTMLAttributes, useState, useTransition } from 'react'
import { applyTo, dispute, unapply, writeItemOff } from '@/app/acts/account'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { AccountItem, Happening } from '@/runs/account'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { Chip, type Tone } from '@/ui/Chip'
import { TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { ScrollBox } from '@/ui/ScrollBox'
import { type Column, Table } from '@/ui/Table'

type Outcome = { ok: true } | { ok: false; message: string }
type Asking = { what: 'dispute' | 'write off' | 'apply'; item: AccountItem } | null

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

/** What is open of an account, each item with why it stands where it does and what may be done with it. */
export function OpenItems({ items, currency, asOf }: { items: AccountItem[]; currency: string; asOf: string }) {
	const [asking, setAsking] = useState<Asking>(null)
	const { trouble, busy, act } = useActs()
	const debits = items.filter(({ side, openNow }) => side === 'debit' && openNow > 0)
	const close = () => setAsking(null)
	const columns: Column<AccountItem>[] = [
		{
			key: 'number',
			label: 'Number',
			cell: ({ number, document_id }) =>
				document_id ? (
					<Link prefetch={false} href={`/documents/${document_id}`} className="figures text-plum underline">
						{number}
					</Link>
				) : (
					<span className="figures">{number}</span>
				),
		},
		{ key: 'kind', label: 'Kind', cell: ({ kind }) => kind },
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
							debits.length > 0 && <Act onClick={() => setAsking({ what: 'apply', item })}>Apply</Act>
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
			<WhyAsk
				asking={asking}
				busy={busy}
				onClose={close}
				onKeep={(item, words) =>
					act(() => (asking?.what === 'dispute' ? dispute(item.id, words) : writeItemOff(item.id, words)), close)
				}
			/>
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

type WhyProps = {
	asking: Asking
	busy: boolean
	onClose: () => void
	onKeep: (item: AccountItem, words: string) => void
}

function WhyAsk({ asking, busy, onClose, onKeep }: WhyProps) {
	const item = asking?.item
	const disputing = asking?.what === 'dispute'
	return (
		<Ask
			open={asking !== null && asking.what !== 'apply'}
			onClose={onClose}
			title={disputing ? `${item?.number} is in dispute` : `Write off what is open of ${item?.number}?`}
		>
			<form
				className="space-y-3"
				onSubmit={(event) => {
					event.preventDefault()
					if (item) onKeep(item, String(new FormData(event.currentTarget).get('words') ?? ''))
				}}
			>
				<TextField
					label={disputing ? 'What it is about' : 'Why'}
					name="words"
					required
					autoFocus
					help={
						disputing
							? 'It stays owed, but counts as past due no more until the dispute is ended'
							: 'An adjustment is entered and applied to it as of the work date; it cannot be taken away again'
					}
				/>
				<Button kind={disputing ? 'main' : 'grave'} type="submit" disabled={busy}>
					{disputing ? 'Note the dispute' : 'Write it off'}
				</Button>
			</form>
		</Ask>
	)
}

type ApplyProps = {
	credit: AccountItem
	debits: AccountItem[]
	currency: string
	busy: boolean
	onClose: () => void
	onApply: (to: 'oldest' | number[]) => void
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
					const chosen = debits.filter(({ id }) => form.get(`item${id}`) === 'on').map(({ id }) => id)
					onApply(chosen.length > 0 ? chosen : 'oldest')
				}}
			>
				<DebitChoice debits={debits} currency={currency} />
				<p className="text-mute">With none chosen it goes to the oldest due first.</p>
				<Button kind="main" type="submit" disabled={busy}>
					Apply it
				</Button>
			</form>
		</Ask>
	)
}

/** Open debits to choose from. */
export function DebitChoice({ debits, currency }: { debits: AccountItem[]; currency: string }) {
	return (
		<fieldset className="scrolls -m-1 max-h-56 p-1">
			<legend className="mb-1 text-sm">
				<span className="font-semibold">To these items</span>, in their order; none need be chosen
			</legend>
			{debits.map(({ id, number, due_day, openNow }) => (
				<label
					key={id}
					className="grid grid-cols-[auto_minmax(0,1fr)_120px_120px] items-center gap-2.5 border-b border-rule-soft py-1"
				>
					<input type="checkbox" name={`item${id}`} className="size-4 accent-plum" />
					<span className="figures truncate">{number}</span>
					<span className="text-mute">due {dayText(due_day)}</span>
					<span className="figures text-right">{formatMinor(openNow, currency)}</span>
				</label>
			))}
		</fieldset>
	)
}

/** Everything that happened on an account, the latest first, with the balance after it. */
export function HistoryOf({ happenings, currency }: { happenings: Happening[]; currency: string }) {
	const { trouble, busy, act } = useActs()
	const columns: Column<Happening>[] = [
		{ key: 'day', label: 'Date', width: '110px', cell: ({ day }) => dayText(day) },
		{ key: 'kind', label: 'What', width: '100px', cell: ({ kind }) => kind },
		{
			key: 'words',
			label: '',
			cell: ({ words, document_id }) =>
				document_id ? (
					<Link prefetch={false} href={`/documents/${document_id}`} className="figures text-plum underline">
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
			width: '110px',
			cell: ({ application }) =>
				application && (
					<Act disabled={busy} onClick={() => act(() => unapply(application))}>
						Take it back
					</Act>
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
		</>
	)
}

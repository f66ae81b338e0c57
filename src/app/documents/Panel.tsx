'use client'
import Link from 'next/link'
import { Tabs } from 'radix-ui'
import { Fragment, useEffect, useState } from 'react'
import { chargeDropped } from '@/app/acts'
import { dayText } from '@/core/calendar'
import { kindName } from '@/core/document'
import { formatAmount, formatMinor, formatTime } from '@/core/format'
import type { PanelView, WhyRow } from '@/runs/panel'
import { MessageBody } from '@/ui/MessageBody'
import { Notice } from '@/ui/Notice'
import { PdfPages } from '@/ui/PdfPages'

import { MessageEdit } from './MessageEdit'

export const panelTabs = ['paper', 'working', 'message', 'account', 'history'] as const
export type PanelTab = (typeof panelTabs)[number]
export const isPanelTab = (text: string | null): text is PanelTab => panelTabs.some((tab) => tab === text)

const tabLook =
	'border-b-2 border-transparent px-0.5 pb-2 pt-2.5 capitalize text-mute hover:text-ink data-[state=active]:border-plum data-[state=active]:font-semibold data-[state=active]:text-ink'

/** Fetches what the panel shows of a document; `version` changes when it may have changed. */
export function usePanel(documentId: number | null, version: string): PanelView | null {
	const [view, setView] = useState<PanelView | null>(null)
	useEffect(() => {
		if (documentId === null) return setView(null)
		const stop = new AbortController()
		fetch(`/api/documents/${documentId}/panel`, { signal: stop.signal })
			.then((answer) => (answer.ok ? answer.json() : null))
			.then(setView)
			.catch(() => {})
		return () => stop.abort()
	}, [documentId, version])
	return view && view.document.id === documentId ? view : null
}

type Props = { view: PanelView; tab: PanelTab; onTab: (tab: PanelTab) => void }

/** What a document is: its paper, how its figures were reached, its message, its account, what happened to it. */
export function Panel({ view, tab, onTab }: Props) {
	const { document } = view
	const paper = `/api/documents/${document.id}/pdf?v=${document.file_sha256?.slice(0, 8) ?? document.number ?? 'draft'}`
	return (
		<Tabs.Root
			value={tab}
			onValueChange={(next) => isPanelTab(next) && onTab(next)}
			className="flex min-h-0 flex-1 flex-col"
			activationMode="manual"
		>
			<Tabs.List
				aria-label="What the document is"
				className="flex gap-4 border-b border-rule px-4 max-[1100px]:gap-2.5 max-[1100px]:px-3"
			>
				{panelTabs.map((name) => (
					<Tabs.Trigger key={name} value={name} className={tabLook}>
						{name === 'working' && view.why ? 'why' : name}
					</Tabs.Trigger>
				))}
			</Tabs.List>
			<div className="scrolls min-h-0 flex-1 px-4 py-3" key={`${document.id} ${tab}`}>
				<Tabs.Content value="paper">
					<PdfPages
						url={paper}
						label={`${kindName[document.kind]} ${document.number ?? 'draft'} to ${document.customer_name}`}
					/>
					<p className="text-sm text-mute">
						<a href={paper} target="_blank" rel="noreferrer" className="text-plum underline">
							Open the PDF
						</a>
						{document.file_sha256 && (
							<>
								{' '}
								{document.file_name?.split('/').at(-1)}, {Math.ceil((document.file_size ?? 0) / 1024)} KB, SHA-256{' '}
								<span className="figures break-all">{document.file_sha256.slice(0, 16)}…</span>
							</>
						)}
					</p>
				</Tabs.Content>
				<Tabs.Content value="working">
					{view.charge && <Charge view={view} charge={view.charge} />}
					{view.why ? <Why rows={view.why} currency={document.currency} /> : <Working view={view} />}
				</Tabs.Content>
				<Tabs.Content value="message">
					<Message view={view} />
				</Tabs.Content>
				<Tabs.Content value="account">
					<Account view={view} />
				</Tabs.Content>
				<Tabs.Content value="history">
					<ol className="text-sm">
						{view.history.map(({ at, clerk, act, detail }) => (
							<li key={`${at} ${act}`} className="border-b border-rule-soft py-1.5">
								<span className="figures text-mute">{formatTime(at)}</span>{' '}
								<span className="font-semibold">{clerk}</span> {act}
								{detail && <span className="text-mute">, {detail}</span>}
							</li>
						))}
					</ol>
				</Tabs.Content>
			</div>
		</Tabs.Root>
	)
}

function Working({ view }: { view: PanelView }) {
	const parts = [...new Set(view.working.map(({ of }) => of))]
	return (
		<div className="space-y-4 text-sm">
			{view.changes.length > 0 && (
				<section className="border-l-[3px] border-plum pl-3">
					<h3 className="font-semibold">Changed before numbering</h3>
					{view.changes.map(({ id, at, clerk, reason, words, undone_at }) => (
						<p key={id} className={undone_at ? 'text-mute line-through' : ''}>
							{words}. <span className="text-mute">{`${clerk}, ${formatTime(at)}: ${reason}`}</span>
						</p>
					))}
				</section>
			)}
			{parts.map((part) => {
				const steps = view.working.filter(({ of }) => of === part)
				return (
					<section key={part}>
						<h3 className="font-semibold">{part}</h3>
						{steps[0]?.source && <p className="text-xs text-mute">{steps[0].source}</p>}
						<dl>
							{steps.map(({ figure, amount, text }, place) => (
								<div key={place} className="grid grid-cols-[1fr_auto] gap-x-3 border-b border-rule-soft py-1">
									<dt>{figure}</dt>
									<dd className="figures font-semibold">{amount}</dd>
									<dd className="col-span-2 text-mute">{text}</dd>
								</div>
							))}
						</dl>
					</section>
				)
			})}
		</div>
	)
}

/** The late charge that a statement brings: how it was reached, and the way to drop it. */
function Charge({ view, charge }: { view: PanelView; charge: { amount: string; working: string[] } }) {
	const [trouble, setTrouble] = useState('')
	return (
		<section className="mb-3 border-l-[3px] border-plum pl-3 text-sm">
			<h3 className="font-semibold">{`Late charge ${formatAmount(charge.amount)} ${view.document.currency}`}</h3>
			{charge.working.map((line) => (
				<p key={line} className="text-mute">
					{line}
				</p>
			))}
			{view.document.number === null && (
				<button
					type="button"
					className="text-plum hover:underline"
					onClick={async () => {
						const outcome = await chargeDropped(view.document.id)
						setTrouble(outcome.ok ? '' : outcome.message)
					}}
				>
					Drop it
				</button>
			)}
			{trouble && <Notice tone="stop">{trouble}</Notice>}
		</section>
	)
}

/** Every item of the account, on the statement or not, and why; beside it what the extract has open. */
function Why({ rows, currency }: { rows: WhyRow[]; currency: string }) {
	const open = rows.filter((row) => row.open !== '' || row.difference !== '')
	const settled = rows.length - open.length
	const different = rows.filter(({ difference }) => difference !== '').length
	return (
		<div className="text-sm">
			<p className="pb-2 text-mute">
				{`${rows.filter(({ on }) => on).length} of ${open.length} open items stand on it, in ${currency}. `}
				{different === 0
					? 'The extract has the same.'
					: `${different === 1 ? 'One is' : `${different} are`} different in the extract.`}
			</p>
			<table aria-label="Why each item is on it or not" className="w-full">
				<thead>
					<tr className="border-b border-rule text-left text-xs text-mute">
						<th className="py-1 font-semibold">Item</th>
						<th className="py-1 text-right font-semibold">Open</th>
						<th className="py-1 pl-3 text-right font-semibold">In the extract</th>
					</tr>
				</thead>
				<tbody>
					{open.map((row) => (
						<tr key={row.id} className={`border-b border-rule-soft align-top ${row.on ? '' : 'text-mute'}`}>
							<td className="py-1">
								<span className="figures">{row.number}</span> <span className="text-mute">{row.kind}</span>
								<span className="block text-mute">
									{row.on ? 'on it' : 'not on it'}: {row.words}
								</span>
								{row.difference && <span className="block font-semibold text-brick">{row.difference}</span>}
							</td>
							<td className="figures py-1 text-right whitespace-nowrap">{row.open}</td>
							<td className="figures py-1 pl-3 text-right whitespace-nowrap">{row.extract}</td>
						</tr>
					))}
				</tbody>
			</table>
			{settled > 0 && (
				<details className="pt-2">
					<summary className="text-plum">{`${settled} settled or later`}</summary>
					<ul>
						{rows
							.filter((row) => !open.includes(row))
							.map(({ id, number, words }) => (
								<li key={id}>
									<span className="figures">{number}</span> <span className="text-mute">{words}</span>
								</li>
							))}
					</ul>
				</details>
			)}
		</div>
	)
}

function Message({ view }: { view: PanelView }) {
	const { message, attempts, document } = view
	if (!message || document.email === '') {
		return (
			<p className="text-mute">
				{document.customer_name} has no email address.{' '}
				{document.printed_at
					? `Printed and posted ${formatTime(document.printed_at)} by ${document.printed_by}.`
					: 'The PDF is listed in the Postroom to be printed.'}
			</p>
		)
	}
	const others: [name: string, value: string][] = [
		['Copy', message.cc],
		['Unseen', message.bcc],
		['Answers', message.replyTo],
	]
	return (
		<div className="space-y-3 text-sm">
			<dl className="grid grid-cols-[70px_1fr] gap-y-1">
				<dt className="text-mute">From</dt>
				<dd>{message.sender || <span className="text-brick">no address: give one under Company</span>}</dd>
				<dt className="text-mute">To</dt>
				<dd>{message.recipient}</dd>
				{others
					.filter(([, value]) => value !== '')
					.map(([name, value]) => (
						<Fragment key={name}>
							<dt className="text-mute">{name}</dt>
							<dd>{value}</dd>
						</Fragment>
					))}
				<dt className="text-mute">Subject</dt>
				<dd className="font-semibold">{message.subject}</dd>
				<dt className="text-mute">File</dt>
				<dd>{[message.file, ...message.copies.map((number) => `a copy of ${number}`)].join(', ')}</dd>
				<dt className="text-mute">State</dt>
				<dd>
					{message.state}
					{message.answer && <span className="text-mute">, {message.answer}</span>}
				</dd>
			</dl>
			{message.spared && <Notice tone="look">{`No past-due letter: ${message.spared}.`}</Notice>}
			<div className="border border-rule bg-sheet p-3">
				<MessageBody body={message.body} />
			</div>
			<MessageEdit key={`${message.subject} ${message.body}`} view={view} />
			{attempts.map(({ id, at, outcome, answer }) => (
				<p key={id}>
					<Link href={`/sent-log/${id}`} className="text-plum underline">
						{formatTime(at)}: {outcome}
					</Link>{' '}
					<span className="text-mute">{answer}</span>
				</p>
			))}
		</div>
	)
}

function Account({ view }: { view: PanelView }) {
	const { account } = view
	return (
		<div className="text-sm">
			<p className="pb-2">
				<Link href={`/accounts/${account.id}`} className="font-semibold text-plum underline">
					{account.name}
				</Link>{' '}
				<span className="figures text-mute">{account.number}</span>
			</p>
			{account.earlier.length === 0 && <p className="text-mute">No other invoice to this customer yet.</p>}
			{account.earlier.map(({ id, number, day, total, currency }) => (
				<Link
					key={id}
					href={`/documents/${id}`}
					className="grid grid-cols-[100px_1fr_auto] gap-2 border-b border-rule-soft py-1.5 hover:bg-plum-wash"
				>
					<span className="figures">{number}</span>
					<span className="text-mute">{dayText(day)}</span>
					<span className="figures">
						{formatMinor(total, currency)} {currency}
					</span>
				</Link>
			))}
		</div>
	)
}

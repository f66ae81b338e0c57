'use client'
import { Tabs } from 'radix-ui'
import { useEffect, useState } from 'react'
import { formatTime } from '@/core/format'
import type { PanelView } from '@/runs/bench/panel'
import { KeyHint } from '@/ui/KeyHint'
import { PdfPages } from '@/ui/PdfPages'
import { Account } from './Account'
import { LayoutLine } from './LayoutLine'
import { Message } from './Message'
import { Charge, Why } from './Why'
import { Working } from './Working'

export const panelTabs = ['paper', 'working', 'message', 'account', 'history'] as const
export type PanelTab = (typeof panelTabs)[number]
export const isPanelTab = (text: string | null): text is PanelTab => panelTabs.some((tab) => tab === text)

const tabLook =
	'border-b-2 border-transparent px-0.5 pb-2 pt-2.5 capitalize text-mute hover:text-ink data-[state=active]:border-plum data-[state=active]:font-semibold data-[state=active]:text-ink'

/** What came with a page of the document that its address names. */
export type OpenedPanel = { view: PanelView; version: string } | null

/** Fetches what the panel shows of a document, unless it came with the page; `version` changes when it may have changed. */
export function usePanel(documentId: number | null, version: string, opened: OpenedPanel = null): PanelView | null {
	const [view, setView] = useState<PanelView | null>(opened?.view ?? null)
	const came = opened?.version === version && opened.view.document.id === documentId
	useEffect(() => {
		if (documentId === null) return setView(null)
		if (came && opened) return setView(opened.view)
		const stop = new AbortController()
		fetch(`/api/documents/${documentId}/panel`, { signal: stop.signal })
			.then((answer) => (answer.ok ? answer.json() : null))
			.then(setView)
			.catch(() => {})
		return () => stop.abort()
	}, [documentId, version])
	return view && view.document.id === documentId ? view : null
}

type Props = {
	view: PanelView
	tab: PanelTab
	onTab: (tab: PanelTab) => void
	/** Whether there is room for the paper beside what else is looked at. */
	wide?: boolean
	/** Makes it as wide as the screen, or as it was. */
	onWide?: () => void
}

/** What a document is: its paper, how its figures were reached, its message, its account, what happened to it. */
export function Panel({ view, tab, onTab, wide = false, onWide }: Props) {
	const { document } = view
	const paper = `/api/documents/${document.id}/pdf?v=${document.file_sha256?.slice(0, 8) ?? document.number ?? 'draft'}-${view.layout.id}-${view.layout.version}`
	return (
		<Tabs.Root
			value={tab}
			onValueChange={(next) => isPanelTab(next) && onTab(next)}
			className="flex min-h-0 flex-1 flex-col"
			activationMode="manual"
		>
			<Tabs.List
				aria-label="What the document is"
				className="flex gap-3 border-b border-rule px-4 max-[1100px]:gap-2.5 max-[1100px]:px-3"
			>
				{panelTabs.map((name) => (
					<Tabs.Trigger key={name} value={name} className={tabLook}>
						{name === 'working' && view.why ? 'why' : name}
					</Tabs.Trigger>
				))}
				{onWide && (
					<button
						type="button"
						tabIndex={-1}
						onClick={onWide}
						className="ml-auto flex items-center gap-1 text-xs whitespace-nowrap text-mute hover:text-ink max-[1100px]:hidden"
					>
						{wide ? 'narrow' : 'wide'} <KeyHint>P</KeyHint>
					</button>
				)}
			</Tabs.List>
			<div
				className={wide ? 'grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(0,1fr)]' : 'flex min-h-0 flex-1'}
				key={`${document.id} ${tab}`}
			>
				<div className="scrolls min-h-0 min-w-0 flex-1 px-4 py-3">
					<Tabs.Content value="paper">
						<LayoutLine view={view} />
						<PdfPages
							url={paper}
							label={`${view.words.name} ${document.number ?? 'draft'} to ${document.customer_name}`}
						/>
						<p className="text-sm text-mute">
							<a href={paper} target="_blank" rel="noreferrer" className="text-plum underline">
								Open the PDF
							</a>
							{document.file_sha256 && (
								<>
									{' '}
									{document.file_name?.split('/').at(-1)}, {Math.ceil((document.file_size ?? 0) / 1024)} KB, SHA-256{' '}
									<span className="figures break-all !whitespace-normal">{document.file_sha256.slice(0, 16)}…</span>
								</>
							)}
							{document.number && (
								<>
									{'. '}
									<a
										href={`/api/documents/${document.id}/pdf?as=copy`}
										target="_blank"
										rel="noreferrer"
										className="text-plum underline"
									>
										Print it again
									</a>
								</>
							)}
						</p>
						{view.files.length > 0 && (
							<p className="mt-1 text-sm text-mute">
								{'Beside it: '}
								{view.files.map(({ format, name }, place) => (
									<span key={format}>
										{place > 0 && ', '}
										<a href={`/api/documents/${document.id}/beside?format=${format}`} className="text-plum underline">
											{name}
										</a>
									</span>
								))}
							</p>
						)}
					</Tabs.Content>
					<Tabs.Content value="working">
						{view.charge && <Charge view={view} charge={view.charge} />}
						{view.why ? (
							<Why why={view.why} currency={document.currency} account={document.customer_id} />
						) : (
							<Working view={view} />
						)}
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
				{wide && (
					<div className="scrolls min-h-0 min-w-0 border-l border-rule px-4 py-3">
						{tab === 'paper' ? (
							<>
								{view.charge && <Charge view={view} charge={view.charge} />}
								{view.why ? (
									<Why why={view.why} currency={document.currency} account={document.customer_id} />
								) : (
									<Working view={view} />
								)}
							</>
						) : (
							<PdfPages url={paper} label={`${view.words.name} ${document.number ?? 'draft'}`} />
						)}
					</div>
				)}
			</div>
		</Tabs.Root>
	)
}

'use client'
import { useState, useTransition } from 'react'
import { onPost } from '@/app/acts/document'
import { formatTime } from '@/core/format'
import type { PostAct, PostChoice } from '@/runs/send/postroom'
import type { PostRow, PostState } from '@/store/postroom'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { Chip } from '@/ui/Chip'
import { TextField } from '@/ui/Field'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { Table } from '@/ui/Table'
import { useSorted } from '@/ui/useSorted'
import { stateWords } from './words'

type PostLine = Pick<
	PostRow,
	'id' | 'copy' | 'post' | 'document_id' | 'number' | 'customer_name' | 'recipient' | 'run_id' | 'due_at' | 'kept_back'
> & { answer: string; acts: PostAct[] }

type Props = {
	rows: PostLine[]
	/** How many match, those that are not listed among them. */
	total: number
	filter: { words: string; state: PostState | '' }
}

const keyOf = ({ id, copy }: Pick<PostLine, 'id' | 'copy'>) => `${id} ${copy}`
const buttons: [act: PostAct, words: string][] = [
	['again', 'Send now'],
	['address', 'To another address'],
	['keep back', 'Keep back'],
	['let go', 'Let go'],
	['arrived', 'It arrived'],
	['let be', 'Leave at that'],
]
const asked: Partial<Record<PostAct, { title: string; label: string; about: string; yes: string }>> = {
	address: {
		title: 'Send to another address',
		label: 'Address',
		about:
			'These messages alone go there, as they were written. To change where later ones go, change the customer under Accounts.',
		yes: 'Send there',
	},
	'keep back': {
		title: 'Keep back',
		label: 'Why',
		about: 'They stay here until somebody lets them go. The tally of their run shows the reason.',
		yes: 'Keep back',
	},
}

/** The messages of the Postroom, and what may be done with those that are chosen. */
const by: Record<string, (row: PostLine) => string> = {
	number: ({ number }) => number,
	customer: ({ customer_name }) => customer_name,
	to: ({ recipient, copy }) => copy || recipient,
	state: ({ post, due_at }) => `${post} ${due_at ?? ''}`,
	answer: ({ answer }) => answer,
}

export function Messages({ rows: given, total, filter }: Props) {
	const { rows, sorts } = useSorted(given, by)
	const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
	const [everything, setEverything] = useState(false)
	const [asking, setAsking] = useState<PostAct | null>(null)
	const [said, setSaid] = useState<{ good: boolean; words: string } | null>(null)
	const [busy, start] = useTransition()
	const picked = rows.filter((row) => everything || chosen.has(keyOf(row)))
	const count = everything ? total : picked.length
	const choose = (keys: Iterable<string>) => {
		setEverything(false)
		setChosen(new Set(keys))
	}
	const toggle = (key: string) => {
		const next = new Set(everything ? rows.map(keyOf) : chosen)
		if (!next.delete(key)) next.add(key)
		choose(next)
	}
	const act = (what: PostAct, words = '') =>
		start(async () => {
			const choice: PostChoice = everything
				? { ...filter, expected: total }
				: { rows: picked.map(({ id, copy }) => ({ id, copy })) }
			const outcome = await answered(onPost(choice, what, words))
			setSaid({ good: outcome.ok, words: outcome.ok ? (outcome.words ?? 'Done.') : outcome.message })
			if (!outcome.ok) return
			choose([])
			setAsking(null)
		})
	const ask = asking && asked[asking]
	return (
		<>
			<div className="flex flex-wrap items-center gap-2 px-5 pb-3">
				<span className="figures text-sm" role="status">
					{count === 0 ? 'None chosen' : `${count} chosen`}
				</span>
				{buttons.map(([what, words]) => {
					const fits = picked.filter(({ acts }) => acts.includes(what)).length
					return fits === 0 ? null : (
						<Button key={what} disabled={busy} onClick={() => (asked[what] ? setAsking(what) : act(what))}>
							{everything || fits === 1 ? words : `${words}: ${fits}`}
						</Button>
					)
				})}
				{total > rows.length && !everything && (
					<Button kind="bare" onClick={() => setEverything(true)}>
						{`Choose all ${total} that match`}
					</Button>
				)}
				{said && <Notice tone={said.good ? 'tie' : 'stop'}>{said.words}</Notice>}
			</div>
			<Table
				label="Messages"
				rows={rows}
				rowKey={keyOf}
				sorts={sorts}
				columns={[
					{
						key: 'choose',
						label: (
							<input
								type="checkbox"
								aria-label="Choose all that are listed"
								checked={rows.length > 0 && picked.length === rows.length}
								onChange={() => choose(picked.length === rows.length ? [] : rows.map(keyOf))}
								className="size-4 accent-plum"
							/>
						),
						width: '3rem',
						cell: (row) => (
							<input
								type="checkbox"
								aria-label={`Choose ${row.number}`}
								checked={everything || chosen.has(keyOf(row))}
								disabled={row.acts.length === 0}
								onChange={() => toggle(keyOf(row))}
								className="size-4 accent-plum"
							/>
						),
					},
					{
						key: 'number',
						sort: by.number,
						label: 'Number',
						cell: ({ document_id, number }) => (
							<Link href={`/documents/${document_id}`} className="figures whitespace-nowrap text-plum underline">
								{number}
							</Link>
						),
					},
					{ key: 'customer', label: 'Customer', sort: by.customer, cell: ({ customer_name }) => customer_name },
					{
						key: 'to',
						sort: by.to,
						label: 'To',
						cell: ({ recipient, copy }) => (
							<span className="wrap-anywhere">{copy === '' ? recipient : `copy to ${copy}`}</span>
						),
					},
					{
						key: 'state',
						sort: by.state,
						label: 'State',
						cell: ({ post, due_at }) => (
							<>
								<Chip tone={stateWords[post].tone}>{stateWords[post].words}</Chip>
								{due_at && (post === 'put off' || post === 'copy') && (
									<span className="block text-xs whitespace-nowrap text-mute">{`at ${formatTime(due_at)}`}</span>
								)}
							</>
						),
					},
					{
						key: 'answer',
						sort: by.answer,
						label: 'What the server answered',
						cell: ({ answer, kept_back }) => (
							<span className="wrap-anywhere text-mute">{kept_back ? `kept back: ${kept_back}` : answer}</span>
						),
					},
					{
						key: 'run',
						label: 'Run',
						figures: true,
						cell: ({ run_id }) => (
							<Link href={`/runs/${run_id}`} className="text-plum underline">
								{run_id}
							</Link>
						),
					},
				]}
			/>
			{ask && asking && (
				<Ask open onClose={() => setAsking(null)} title={`${ask.title}: ${count}`}>
					<form
						className="space-y-3"
						onSubmit={(event) => {
							event.preventDefault()
							act(asking, String(new FormData(event.currentTarget).get('words') ?? ''))
						}}
					>
						<p className="text-mute">{ask.about}</p>
						<TextField label={ask.label} name="words" required />
						{said && !said.good && <Notice tone="stop">{said.words}</Notice>}
						<div className="flex gap-2">
							<Button kind="main" type="submit" disabled={busy}>
								{ask.yes}
							</Button>
							<Button onClick={() => setAsking(null)}>Not now</Button>
						</div>
					</form>
				</Ask>
			)}
		</>
	)
}

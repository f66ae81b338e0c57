'use client'
import { useState, useTransition } from 'react'
import { answerFile, setKind, setReading } from '@/app/acts/bringIn'
import type { Outcome } from '@/core/outcome'
import type { FileKind } from '@/intake/kinds'
import type { Reading } from '@/intake/reading'
import type { PairAnswer } from '@/runs/extract/likely'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { useAwake } from '@/ui/useAwake'

/** An answer, what it means in a sentence, what it would make of the examples, and what it sets. */
export type Choice = { words: string; means?: string; gives: string[]; set: Setting }
type Setting =
	| { reading: Partial<Reading> }
	| { kind: FileKind }
	| {
			answers: {
				amended?: 'replace' | 'leave'
				again?: 'others' | 'same'
				twice?: 'enter' | 'leave'
				renamed?: boolean
				twins?: Record<string, 'same' | 'other'>
				pairs?: Record<string, PairAnswer>
				reason?: string
			}
	  }
/** `why` where the answer is a reason that is typed, and what the button says. */
export type Asked = { key: string; title: string; about: string; choices: Choice[]; why?: string }

/** What the file leaves open, each with examples from it and what either answer would give. Nothing is taken before they are answered. */
export function Questions({ id, asked }: { id: number; asked: Asked[] }) {
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const awake = useAwake()
	const set = (setting: Setting): Promise<Outcome> =>
		'reading' in setting
			? setReading(id, setting.reading)
			: 'kind' in setting
				? setKind(id, setting.kind)
				: answerFile(id, setting.answers)
	return (
		<section aria-label="Questions" className="mx-5 mb-4 rounded border border-ochre bg-sheet">
			<h2 className="border-b border-rule-soft bg-ochre-wash px-4 py-2 font-semibold text-ochre">
				{asked.length === 1 ? 'One question' : `${asked.length} questions`}
			</h2>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			{asked.map(({ key, title, about, choices, why }) => (
				<div key={key} className="border-b border-rule-soft px-4 py-3 last:border-b-0">
					<h3 className="font-semibold">{title}</h3>
					<p className="text-mute">{about}</p>
					{why && (
						<form
							className="mt-2 flex max-w-xl items-end gap-2"
							onSubmit={(event) => {
								event.preventDefault()
								const reason = String(new FormData(event.currentTarget).get('reason') ?? '').trim()
								start(async () => {
									const outcome = await answered(set({ answers: { reason } }))
									setTrouble(outcome.ok ? '' : outcome.message)
								})
							}}
						>
							<div className="flex-1">
								<TextField label="Why it is right all the same" name="reason" required />
							</div>
							<Button type="submit" kind="grave" disabled={busy || !awake}>
								{why}
							</Button>
						</form>
					)}
					<ul
						className="mt-2 grid gap-2"
						style={{
							gridTemplateColumns: `repeat(${choices.length === 4 ? 2 : Math.min(choices.length, 3)}, minmax(0, 1fr))`,
						}}
					>
						{choices.map(({ words, means, gives, set: setting }) => (
							<li key={words} className="rounded border border-rule px-3 py-2">
								<Button
									disabled={busy || !awake}
									onClick={() =>
										start(async () => {
											const outcome = await answered(set(setting))
											setTrouble(outcome.ok ? '' : outcome.message)
										})
									}
								>
									{words}
								</Button>
								{means && <p className="mt-1.5 text-sm text-mute">{means}</p>}
								<ul className="mt-1.5 space-y-0.5 text-sm">
									{gives.map((line) => (
										<li key={line} className="figures truncate text-mute">
											{line}
										</li>
									))}
								</ul>
							</li>
						))}
					</ul>
				</div>
			))}
		</section>
	)
}

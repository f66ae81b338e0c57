'use client'
import { useState, useTransition } from 'react'
import { sayKind } from '@/app/acts/account'
import { dayText } from '@/core/calendar'
import { counted } from '@/core/counted'
import { formatMinor } from '@/core/format'
import type { KindQuestion } from '@/store/kindQuestions'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { Notice } from '@/ui/Notice'
import { useAwake } from '@/ui/useAwake'

/** So many are asked about one by one; the rest follows as these are answered. */
const oneByOne = 5

/** Asks of charges that files brought before debit notes had a kind of their own which of them are debit notes. */
export function KindQuestions({ questions }: { questions: KindQuestion[] }) {
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const awake = useAwake()
	const say = (items: KindQuestion[], kind: 'charge' | 'debit note') =>
		start(async () => {
			const outcome = await answered(
				sayKind(
					items.map(({ id }) => id),
					kind,
				),
			)
			setTrouble(outcome.ok ? '' : outcome.message)
		})
	const buttons = (items: KindQuestion[], all: boolean) => (
		<span className="flex gap-2">
			<Button disabled={busy || !awake} onClick={() => say(items, 'charge')}>
				{all ? 'All charges' : 'Charge'}
			</Button>
			<Button disabled={busy || !awake} onClick={() => say(items, 'debit note')}>
				{all ? 'All debit notes' : 'Debit note'}
			</Button>
		</span>
	)
	return (
		<section aria-label="Charges or debit notes" className="mx-5 mb-4 rounded border border-ochre bg-sheet">
			<h2 className="border-b border-rule-soft bg-ochre-wash px-4 py-2 font-semibold text-ochre">
				{`${counted(questions.length, 'item')} that files brought as charges: which are debit notes?`}
			</h2>
			<p className="px-4 pt-2 text-mute">
				A debit note bears late charges, as an invoice does; a charge, such as a bank fee, bears none. Their files did
				not tell the two apart.
			</p>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			<ul className="px-4 py-2">
				{questions.slice(0, oneByOne).map((question) => (
					<li key={question.id} className="flex items-center justify-between gap-3 py-1">
						<span>
							{`${question.customer}, `}
							<span className="figures">{question.number}</span>
							{` of ${dayText(question.day)}, ${formatMinor(question.open, question.currency)} ${question.currency} open`}
						</span>
						{buttons([question], false)}
					</li>
				))}
				{questions.length > 1 && (
					<li className="flex items-center justify-between gap-3 border-t border-rule-soft py-1">
						<span className="text-mute">{`All ${questions.length}`}</span>
						{buttons(questions, true)}
					</li>
				)}
			</ul>
		</section>
	)
}

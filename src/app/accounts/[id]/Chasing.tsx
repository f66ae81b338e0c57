'use client'
import { useState, useTransition } from 'react'
import { peace, promise, promiseEnded } from '@/app/acts/account'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { Promised } from '@/store/chases'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { Chip } from '@/ui/Chip'
import { DayField } from '@/ui/DayField'
import { TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

type Props = {
	customer: number
	currency: string
	today: string
	peaceNow: { until: string; reason: string }
	promises: Promised[]
	/** Past-due letters that really went, the first first. */
	letters: { name: string; day: string }[]
}
type Outcome = { ok: true } | { ok: false; message: string }

/** What keeps a customer from being written to about what is past due: promised payments, and peace until a day. */
export function Chasing({ customer, currency, today, peaceNow, promises, letters }: Props) {
	const [asking, setAsking] = useState<'promise' | 'peace' | null>(null)
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	const act = (work: () => Promise<Outcome>) =>
		start(async () => {
			const outcome = await answered(work())
			setTrouble(outcome.ok ? '' : outcome.message)
			if (outcome.ok) setAsking(null)
		})
	const text = (form: FormData, name: string) => String(form.get(name) ?? '')
	const atPeace = peaceNow.until >= today && peaceNow.until !== ''
	return (
		<div className="space-y-2 px-5 pb-4 text-sm">
			{atPeace && (
				<p>
					<Chip tone="look">{`left in peace until ${dayText(peaceNow.until)}`}</Chip> {peaceNow.reason}
				</p>
			)}
			{promises.map((one) => (
				<p key={one.id} className="flex flex-wrap items-center gap-x-3">
					<span className="figures">{`${formatMinor(one.amount, one.currency)} ${one.currency}`}</span>
					<span>promised for {dayText(one.day)}</span>
					{one.ended === null && one.received > 0 && (
						<span>{`${formatMinor(one.received, one.currency)} of it came`}</span>
					)}
					<span className="text-mute">{[one.note, `noted by ${one.clerk}`].filter(Boolean).join(', ')}</span>
					{one.ended === null ? (
						<>
							<Chip tone={one.day < today ? 'stop' : 'look'}>{one.day < today ? 'has passed' : 'awaited'}</Chip>
							<button
								type="button"
								disabled={busy}
								className="text-plum hover:underline"
								onClick={() => act(() => promiseEnded(customer, one.id, true))}
							>
								It came
							</button>
							<button
								type="button"
								disabled={busy}
								className="text-plum hover:underline"
								onClick={() => act(() => promiseEnded(customer, one.id, false))}
							>
								It did not
							</button>
						</>
					) : (
						<Chip tone={one.ended === 'kept' ? 'tie' : 'stop'}>{one.ended}</Chip>
					)}
				</p>
			))}
			{letters.length > 0 && (
				<p className="text-mute">
					Went: {letters.map(({ name, day }) => `${name}, ${dayText(day)}`).join('; ')}. They begin anew once nothing is
					past due.
				</p>
			)}
			{!atPeace && promises.length === 0 && (
				<p className="text-mute">Nothing keeps them from being written to about what is past due.</p>
			)}
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			<div className="flex gap-2">
				<Button onClick={() => setAsking('promise')}>Note a promise</Button>
				{atPeace ? (
					<Button disabled={busy} onClick={() => act(() => peace(customer, '', ''))}>
						End the peace
					</Button>
				) : (
					<Button onClick={() => setAsking('peace')}>Leave in peace</Button>
				)}
			</div>
			<Ask open={asking === 'promise'} onClose={() => setAsking(null)} title="A payment is promised">
				<form
					className="space-y-3"
					onSubmit={(event) => {
						event.preventDefault()
						const form = new FormData(event.currentTarget)
						act(() =>
							promise({
								customer,
								day: text(form, 'day'),
								amount: text(form, 'amount'),
								currency: text(form, 'currency'),
								note: text(form, 'note'),
							}),
						)
					}}
				>
					<div className="grid grid-cols-[1fr_1fr_90px] gap-3">
						<DayField label="For" name="day" value={today} required />
						<TextField label="Amount" name="amount" required className="figures" />
						<TextField label="Currency" name="currency" defaultValue={currency} className="figures" />
					</div>
					<TextField label="Who said so, and how" name="note" />
					<p className="text-mute">
						Until that day no past-due letter goes. When it has passed it comes back on the Desk.
					</p>
					<Button kind="main" type="submit" disabled={busy}>
						Note the promise
					</Button>
				</form>
			</Ask>
			<Ask open={asking === 'peace'} onClose={() => setAsking(null)} title="Leave them in peace">
				<form
					className="space-y-3"
					onSubmit={(event) => {
						event.preventDefault()
						const form = new FormData(event.currentTarget)
						act(() => peace(customer, text(form, 'until'), text(form, 'reason')))
					}}
				>
					<DayField label="Until" name="until" value={today} required />
					<TextField label="Why" name="reason" required />
					<Button kind="main" type="submit" disabled={busy}>
						Leave them in peace
					</Button>
				</form>
			</Ask>
		</div>
	)
}

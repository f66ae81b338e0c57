'use client'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { beginStatements } from '@/app/acts/run'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { DayField } from '@/ui/DayField'
import { Choice, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { useKeys } from '@/ui/useKeys'

type Props = {
	today: string
	home: string
	/** Customers of the filtered list; none when it is not filtered. */
	shown: number[]
	/** Whether the firm has terms of late charges. */
	charges: boolean
}

/** Starts a run of statements: as of when, for whom, and what stands on each. */
export function StatementsAsk({ today, home, shown, charges }: Props) {
	const [open, setOpen] = useState(false)
	const [trouble, setTrouble] = useState('')
	/** A question before it is gathered, which the next press says yes to. */
	const [question, setQuestion] = useState('')
	const [form, setForm] = useState('open items')
	const [busy, start] = useTransition()
	const router = useRouter()
	useKeys({ g: () => setOpen(true) })
	return (
		<>
			<Button kind="main" hint="G" onClick={() => setOpen(true)}>
				Start statements
			</Button>
			<Ask open={open} onClose={() => setOpen(false)} title="Start a run of statements">
				<form
					className="space-y-3"
					onInput={() => setQuestion('')}
					onSubmit={(event) => {
						event.preventDefault()
						const fields = new FormData(event.currentTarget)
						start(async () => {
							const outcome = await answered(beginStatements(fields))
							const asked = !outcome.ok && 'ask' in outcome && outcome.ask === 'ahead'
							setQuestion(asked && !outcome.ok ? outcome.message : '')
							setTrouble(outcome.ok || asked ? '' : outcome.message)
							if (outcome.ok && outcome.id) router.push(`/runs/${outcome.id}`)
						})
					}}
				>
					<div className="grid grid-cols-2 gap-3">
						<DayField label="As of" name="asOf" value={today} required />
						<TextField
							label={`Least worth a letter, ${home}`}
							name="least"
							defaultValue="5.00"
							className="figures"
							help="Below it an account is held back. Other currencies after semicolons: 5.00; JPY 800"
						/>
						<Choice
							label="For whom"
							name="show"
							options={[
								['all', 'all with a balance'],
								['past-due', 'only past due'],
							]}
							help="Past due alone: just the undisputed items that are late"
						/>
						<Choice
							label="Credits"
							name="credits"
							options={[
								['apart', 'listed apart'],
								['left out', 'left out'],
							]}
						/>
						<Choice
							label="What stands on it"
							name="form"
							value={form}
							onChange={(event) => setForm(event.target.value)}
							options={[
								['open items', 'open items'],
								['balance forward', 'balance forward'],
							]}
						/>
						{form === 'balance forward' ? (
							<DayField label="What happened since" name="since" value={`${today.slice(0, 8)}01`} required />
						) : (
							<input type="hidden" name="since" value="" />
						)}
					</div>
					<fieldset className="space-y-1.5">
						<legend className="mb-1 text-sm font-semibold">Messages</legend>
						<label className="flex items-center gap-2">
							<input type="checkbox" name="hold" className="size-4 accent-plum" /> Hold each to be read before it goes
						</label>
						<label className="flex items-center gap-2">
							<input type="checkbox" name="copies" className="size-4 accent-plum" /> Attach copies of the invoices past
							due
						</label>
						{charges && (
							<label className="flex items-center gap-2">
								<input type="checkbox" name="charges" className="size-4 accent-plum" /> Propose late charges, as set
								under Letters
							</label>
						)}
					</fieldset>
					{shown.length > 0 && (
						<p className="text-mute">{`For the ${shown.length} customers that the list is filtered to.`}</p>
					)}
					{shown.map((id) => (
						<input key={id} type="hidden" name="customers" value={id} />
					))}
					{trouble && <Notice tone="stop">{trouble}</Notice>}
					{question && <Notice tone="look">{question}</Notice>}
					{question && <input type="hidden" name="ahead" value="sure" />}
					<Button kind="main" type="submit" disabled={busy}>
						{question ? 'Gather them as of that day' : 'Gather the statements'}
					</Button>
				</form>
			</Ask>
		</>
	)
}

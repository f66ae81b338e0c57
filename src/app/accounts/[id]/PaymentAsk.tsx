'use client'
import { type FormEvent, useRef, useState } from 'react'
import { correctItem, foresee, pay } from '@/app/acts/account'
import type { AccountItem } from '@/runs/receivables/account'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { DayField } from '@/ui/DayField'
import { Choice, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { useKeys } from '@/ui/useKeys'
import { chosenOf, DebitChoice } from './DebitChoice'

type Account = { currency: string; debits: AccountItem[] }
type Props = { customer: number; name: string; today: string; accounts: Account[] }
type Question = 'ahead' | 'again'
/** A payment that is put right, as it was entered. */
export type Wrong = { id: number; day: string; amount: string; currency: string; reference: string }

const wants = (form: FormData, customer: number, currency: string, debits: AccountItem[]) => {
	const text = (field: string) => String(form.get(field) ?? '')
	const chosen = chosenOf(form, debits)
	return {
		...{ customer, currency, day: text('day'), amount: text('amount'), reference: text('reference') },
		to: chosen.length > 0 ? chosen : text('to'),
	}
}

/** Enters a payment: its day, amount and reference, and what it is for; what was recognised is shown as it is typed. */
export function PaymentAsk({ customer, name, today, accounts }: Props) {
	const [open, setOpen] = useState(false)
	useKeys({ p: () => setOpen(true) })
	return (
		<>
			<Button kind="main" hint="P" onClick={() => setOpen(true)}>
				Enter a payment
			</Button>
			<Ask open={open} onClose={() => setOpen(false)} title={`A payment from ${name}`} wide>
				<PaymentForm {...{ customer, today, accounts }} onDone={() => setOpen(false)} />
			</Ask>
		</>
	)
}

type FormProps = Omit<Props, 'name'> & { wrong?: Wrong; onDone: () => void }

/** The form of a payment; of one that is put right, with why. */
export function PaymentForm({ customer, today, accounts, wrong, onDone }: FormProps) {
	const [trouble, setTrouble] = useState('')
	const [question, setQuestion] = useState<{ ask: Question; message: string } | null>(null)
	const [currency, setCurrency] = useState(wrong?.currency ?? accounts[0]?.currency ?? '')
	const [seen, setSeen] = useState('')
	const latest = useRef(0)
	const sure = useRef<Question[]>([])
	const debits = accounts.find((account) => account.currency === currency)?.debits ?? []
	const look = async (event: FormEvent<HTMLFormElement>) => {
		const turn = ++latest.current
		setQuestion(null)
		const wanted = wants(new FormData(event.currentTarget), customer, currency, debits)
		await new Promise((resolve) => setTimeout(resolve, 250))
		if (turn !== latest.current || wrong) return
		const outcome = await answered(foresee({ ...wanted, day: wanted.day || today }))
		if (turn === latest.current) setSeen(outcome.ok ? (outcome.words ?? '') : '')
	}
	const keep = async (form: FormData) => {
		const wanted = wants(form, customer, currency, debits)
		const outcome = await answered(
			wrong
				? correctItem(wrong.id, { ...wanted, reason: String(form.get('reason') ?? '') })
				: pay({ ...wanted, sure: sure.current }),
		)
		const asked =
			!outcome.ok && 'ask' in outcome && (outcome.ask === 'ahead' || outcome.ask === 'again') ? outcome.ask : null
		setTrouble(outcome.ok || asked ? '' : outcome.message)
		setQuestion(asked && !outcome.ok ? { ask: asked, message: outcome.message } : null)
		if (outcome.ok) onDone()
	}
	return (
		<form
			className="space-y-3"
			onInput={(event) => void look(event)}
			onSubmit={(event) => {
				event.preventDefault()
				void keep(new FormData(event.currentTarget))
			}}
		>
			<div className="grid grid-cols-[150px_150px_90px_1fr] gap-3">
				<DayField label="Day" name="day" value={wrong?.day ?? today} required />
				<TextField label="Amount" name="amount" defaultValue={wrong?.amount} required autoFocus className="figures" />
				{wrong ? (
					<TextField label="Currency" value={currency} readOnly className="figures" />
				) : (
					<Choice
						label="Currency"
						value={currency}
						onChange={(event) => setCurrency(event.target.value)}
						options={accounts.map((account): [string, string] => [account.currency, account.currency])}
					/>
				)}
				<TextField label="Reference" name="reference" defaultValue={wrong?.reference} help="As the bank shows it" />
			</div>
			<Choice
				label="Where no item is chosen below, it goes to"
				name="to"
				options={[
					['named then oldest', 'the numbers in its reference, then the oldest due'],
					['named', 'the numbers in its reference'],
					['oldest', 'the oldest due'],
					['nothing', 'nothing yet: it stays unapplied'],
				]}
			/>
			{debits.length > 0 && <DebitChoice debits={debits} currency={currency} />}
			{wrong && <TextField label="Why it is put right" name="reason" required />}
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			{question && <Notice tone="look">{question.message}</Notice>}
			{/* What was recognised comes while a hand is on its way to the button: it stands beside it, and moves nothing. */}
			<div className="flex items-start gap-4">
				<div className="flex shrink-0 gap-2">
					<Button
						kind="main"
						type="submit"
						onClick={() => {
							sure.current = question ? [...sure.current, question.ask] : []
						}}
					>
						{question ? 'Enter it all the same' : wrong ? 'Put it right' : 'Enter the payment'}
					</Button>
					<Button onClick={onDone}>Not now</Button>
				</div>
				<p aria-live="polite" className={seen === '' ? '' : 'border-l-[3px] border-kelp pl-3 text-sm'}>
					{seen}
				</p>
			</div>
		</form>
	)
}

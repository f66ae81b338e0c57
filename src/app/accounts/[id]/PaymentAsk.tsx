'use client'
import { useState } from 'react'
import { pay } from '@/app/acts/account'
import type { AccountItem } from '@/runs/account'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { DayField } from '@/ui/DayField'
import { Choice, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { DebitChoice } from './Ledger'

type Props = { customer: number; name: string; today: string; accounts: { currency: string; debits: AccountItem[] }[] }

/** Enters a payment: its day, amount and reference, and what it is for. */
export function PaymentAsk({ customer, name, today, accounts }: Props) {
	const [open, setOpen] = useState(false)
	const [trouble, setTrouble] = useState('')
	const [currency, setCurrency] = useState(accounts[0]?.currency ?? '')
	const debits = accounts.find((account) => account.currency === currency)?.debits ?? []
	const keep = async (form: FormData) => {
		const text = (field: string) => String(form.get(field) ?? '')
		const chosen = debits.filter(({ id }) => form.get(`item${id}`) === 'on').map(({ id }) => id)
		const outcome = await answered(
			pay({
				customer,
				day: text('day'),
				amount: text('amount'),
				currency,
				reference: text('reference'),
				to: chosen.length > 0 ? chosen : text('to'),
			}),
		)
		setTrouble(outcome.ok ? '' : outcome.message)
		if (outcome.ok) setOpen(false)
	}
	return (
		<>
			<Button kind="main" onClick={() => setOpen(true)}>
				Enter a payment
			</Button>
			<Ask open={open} onClose={() => setOpen(false)} title={`A payment from ${name}`} wide>
				<form
					className="space-y-3"
					onSubmit={(event) => {
						event.preventDefault()
						void keep(new FormData(event.currentTarget))
					}}
				>
					<div className="grid grid-cols-[150px_150px_90px_1fr] gap-3">
						<DayField label="Day" name="day" value={today} required />
						<TextField label="Amount" name="amount" required autoFocus className="figures" />
						<Choice
							label="Currency"
							value={currency}
							onChange={(event) => setCurrency(event.target.value)}
							options={accounts.map((account): [string, string] => [account.currency, account.currency])}
						/>
						<TextField label="Reference" name="reference" help="As the bank shows it" />
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
					{trouble && <Notice tone="stop">{trouble}</Notice>}
					<div className="flex gap-2">
						<Button kind="main" type="submit">
							Enter the payment
						</Button>
						<Button onClick={() => setOpen(false)}>Not now</Button>
					</div>
				</form>
			</Ask>
		</>
	)
}

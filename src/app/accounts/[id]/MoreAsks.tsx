'use client'
import { type ReactNode, useState, useTransition } from 'react'
import { cameBack, enterDebitNote, giveBack, setOffAgainst } from '@/app/acts/account'
import { amountText } from '@/core/currency'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { DayField } from '@/ui/DayField'
import { TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

type Outcome = { ok: true } | { ok: false; message: string }
type Text = (field: string) => string
type FormProps = {
	title: string
	yes: string
	onClose: () => void
	act: (text: Text) => Promise<Outcome>
	children: ReactNode
}

/** A question with fields; it stays, with what was typed, where that is refused. */
function FormAsk({ title, yes, onClose, act, children }: FormProps) {
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	return (
		<Ask open onClose={onClose} title={title}>
			<form
				className="space-y-3"
				onSubmit={(event) => {
					event.preventDefault()
					const form = new FormData(event.currentTarget)
					start(async () => {
						const outcome = await answered(act((field) => String(form.get(field) ?? '')))
						if (outcome.ok) onClose()
						else setTrouble(outcome.message)
					})
				}}
			>
				{children}
				<TextField label="Why" name="reason" required />
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				<div className="flex gap-2">
					<Button kind="main" type="submit" disabled={busy}>
						{yes}
					</Button>
					<Button onClick={onClose}>Not now</Button>
				</div>
			</form>
		</Ask>
	)
}

type Credit = { id: number; number: string; openNow: number }
/** Money given back to the customer, out of a credit. */
export const RefundAsk = ({
	credit,
	currency,
	today,
	onClose,
}: {
	credit: Credit
	currency: string
	today: string
	onClose: () => void
}) => (
	<FormAsk
		title={`Give back out of ${credit.number}`}
		yes="Enter the refund"
		onClose={onClose}
		act={(text) =>
			giveBack({
				...{ credit: credit.id, day: text('day'), amount: text('amount') },
				...{ reference: text('reference'), reason: text('reason') },
			})
		}
	>
		<div className="grid grid-cols-2 gap-3">
			<DayField label="Day" name="day" value={today} required />
			<TextField
				label={`Amount, ${currency}`}
				name="amount"
				defaultValue={amountText(BigInt(credit.openNow), currency)}
				required
				autoFocus
				className="figures"
			/>
		</div>
		<TextField label="Reference" name="reference" help="As your bank shows it" />
	</FormAsk>
)

/** A payment that came back: what it paid is owed again. */
export const ReturnedAsk = ({
	payment,
	currency,
	today,
	onClose,
}: {
	payment: { id: number; number: string }
	currency: string
	today: string
	onClose: () => void
}) => (
	<FormAsk
		title={`${payment.number} came back`}
		yes="It came back"
		onClose={onClose}
		act={(text) => cameBack({ payment: payment.id, day: text('day'), charge: text('charge'), reason: text('reason') })}
	>
		<div className="grid grid-cols-2 gap-3">
			<DayField label="On" name="day" value={today} required />
			<TextField label={`Charge for it, ${currency}`} name="charge" className="figures" help="Empty: none" />
		</div>
		<p className="text-sm text-mute">What it paid is owed again from that day on; the days before stay as they were.</p>
	</FormAsk>
)

type Account = { customer: number; number: string; today: string; currencies: string[] }

/** What else may be entered on an account: a debit note, and a set-off against another account of the same firm. */
export function MoreAsks({ customer, number, today, currencies }: Account) {
	const [asking, setAsking] = useState<'debit note' | 'set-off' | null>(null)
	const close = () => setAsking(null)
	const currency = (
		<TextField label="Currency" name="currency" defaultValue={currencies[0]} required className="figures" />
	)
	return (
		<>
			<Button onClick={() => setAsking('debit note')}>Debit note</Button>
			<Button onClick={() => setAsking('set-off')}>Set off</Button>
			{asking === 'debit note' && (
				<FormAsk
					title="A debit note"
					yes="Enter the debit note"
					onClose={close}
					act={(text) =>
						enterDebitNote({
							...{ customer, number: text('number'), day: text('day'), due: text('due') },
							...{ amount: text('amount'), currency: text('currency').toUpperCase(), reason: text('reason') },
						})
					}
				>
					<div className="grid grid-cols-2 gap-3">
						<TextField label="Number" name="number" required autoFocus className="figures" />
						<DayField label="Day" name="day" value={today} required />
						<TextField label="Amount" name="amount" required className="figures" />
						{currency}
						<DayField label="Due" name="due" value={today} required />
					</div>
				</FormAsk>
			)}
			{asking === 'set-off' && (
				<FormAsk
					title="Set a credit of this account off against another"
					yes="Set it off"
					onClose={close}
					act={(text) =>
						setOffAgainst({
							...{ customer, other: text('other'), amount: text('amount') },
							...{ currency: text('currency').toUpperCase(), reason: text('reason') },
						})
					}
				>
					<div className="grid grid-cols-3 gap-3">
						<TextField
							label="Account that owes"
							name="other"
							required
							autoFocus
							className="figures"
							help="Its customer number"
						/>
						<TextField label="Amount" name="amount" required className="figures" />
						{currency}
					</div>
					<p className="text-sm text-mute">{`What stands to the credit of ${number} is used up by it, and the oldest that is due there is paid.`}</p>
				</FormAsk>
			)}
		</>
	)
}

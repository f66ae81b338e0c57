'use client'
import { useState } from 'react'
import { cameBack, enterDebitNote, giveBack, setOffAgainst } from '@/app/acts/account'
import { amountText } from '@/core/currency'
import { Button } from '@/ui/Button'
import { DayField } from '@/ui/DayField'
import { TextField } from '@/ui/Field'
import { FieldsAsk } from '@/ui/FieldsAsk'

const why = <TextField label="Why" name="reason" required />

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
	<FieldsAsk
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
		{why}
	</FieldsAsk>
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
	<FieldsAsk
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
		{why}
	</FieldsAsk>
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
				<FieldsAsk
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
					{why}
				</FieldsAsk>
			)}
			{asking === 'set-off' && (
				<FieldsAsk
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
					{why}
				</FieldsAsk>
			)}
		</>
	)
}

'use client'
import { formatAmount } from '@/core/format'
import type { FormTrouble, OrderForm } from '@/intake/orderForm'
import type { FormSeen } from '@/runs/drafts/orderForm'
import { inputLook } from '@/ui/Field'

type Props = {
	form: OrderForm
	seen: FormSeen | null
	discounts: string[]
	troubleAt: (field: string) => FormTrouble | null
	onSet: (part: Partial<OrderForm>) => void
}

/** What is taken off and put on the whole order, and what it comes to as an invoice of the work date. */
export function PadTotals({ form, seen, discounts, troubleAt, onSet }: Props) {
	const totals = seen?.totals ?? null
	const field = (key: 'discount' | 'freight', label: string, hint: string) => {
		const wrong = troubleAt(key)
		return (
			<div className="grid grid-cols-[104px_130px_minmax(0,1fr)] items-baseline gap-x-2">
				<span className="text-sm font-semibold">{label}</span>
				<input
					aria-label={label}
					aria-invalid={wrong !== null}
					aria-describedby={wrong ? `${key}-why` : undefined}
					data-way
					value={form[key]}
					placeholder={hint}
					inputMode="decimal"
					onChange={(event) => onSet({ [key]: event.target.value })}
					className={`${inputLook} figures py-1 text-right ${wrong ? 'border-brick' : ''}`}
				/>
				<span id={`${key}-why`} className="text-xs text-brick">
					{wrong?.words}
				</span>
			</div>
		)
	}
	return (
		<div className="grid grid-cols-[minmax(0,1fr)_340px] gap-x-8 px-5 py-3">
			<div className="space-y-1.5">
				{field('discount', 'Discount %', `or ${seen?.currency ?? 'GBP'} 10.00`)}
				{discounts.length > 0 && (
					<div className="grid grid-cols-[104px_230px_minmax(0,1fr)] items-baseline gap-x-2">
						<span className="text-sm font-semibold">Named</span>
						<select
							aria-label="Named discount"
							value={form.discountName}
							onChange={(event) => onSet({ discountName: event.target.value })}
							className={`${inputLook} py-1`}
						>
							<option value="">no other</option>
							{discounts.map((label) => (
								<option key={label}>{label}</option>
							))}
						</select>
						<span className="text-xs text-brick">{troubleAt('discountName')?.words}</span>
					</div>
				)}
				{field('freight', 'Freight', 'amount, or 5%')}
				<p className="pl-[112px] text-sm text-mute">
					Enter takes the short way: customer, their order, item, quantity, next item. Tab goes to every field; Ctrl and
					Enter saves. What stands in grey is looked up, and counts where nothing is written.
				</p>
			</div>
			{totals ? (
				<dl
					aria-label="What it comes to"
					aria-live="polite"
					className="self-start border border-rule bg-sheet px-4 py-2"
				>
					<Sum label="Lines" amount={totals.lines} />
					{totals.discounts.map(({ label, amount }) => (
						<Sum key={label} label={label} amount={amount.startsWith('-') ? amount.slice(1) : `-${amount}`} />
					))}
					{Number(totals.freight) !== 0 && <Sum label="Freight" amount={totals.freight} />}
					<Sum label="Net" amount={totals.net} strong />
					<Sum label="Tax" amount={totals.tax} />
					<Sum label={`Total in ${totals.currency}`} amount={totals.total} strong />
				</dl>
			) : (
				<div aria-live="polite" className="self-start border border-rule bg-sheet px-4 py-2">
					<p className="text-mute">What it comes to stands here as soon as it has its customer and a line.</p>
				</div>
			)}
		</div>
	)
}

const Sum = ({ label, amount, strong = false }: { label: string; amount: string; strong?: boolean }) => (
	<div className={`flex justify-between py-0.5 ${strong ? 'font-semibold' : ''}`}>
		<dt className={strong ? '' : 'text-mute'}>{label}</dt>
		<dd className="figures">{formatAmount(amount)}</dd>
	</div>
)

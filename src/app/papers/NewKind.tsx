'use client'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { newPaperKind } from '@/app/acts/papers'
import type { PaperBase, PaperSource, SheetWay } from '@/core/paperKind'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { SavedForm } from '@/ui/SavedForm'
import { useKeys } from '@/ui/useKeys'
import { KindFields } from './KindFields'

const sources: [PaperSource, string, string][] = [
	['form', 'What is written for it', 'in the order form: quotes, orders to suppliers'],
	['orders', 'Orders of the books', 'each order has its own: confirmations, delivery notes'],
	['sheet', 'Rows of any sheet', 'lists, letters, reports: its columns become fields'],
]
const bases: [PaperBase, string, string][] = [
	['priced', 'With prices', 'discounts, tax and totals are reckoned as on invoices'],
	['unpriced', 'Without prices', 'what and how many alone'],
]

const ways: [SheetWay, string, string][] = [
	['row', 'A row', 'a letter to each member of a list'],
	['key', 'For the rows of one key', 'all rows of a customer, a supplier, a job'],
	['whole', 'For the whole sheet', 'a report, a price list'],
]

/** The question for a new kind of paper. What it is made from, and whether it has prices, is said once. */
export function NewKind() {
	const [open, setOpen] = useState(false)
	const [source, setSource] = useState<PaperSource>('form')
	const [base, setBase] = useState<PaperBase>('priced')
	const [way, setWay] = useState<SheetWay>('row')
	const router = useRouter()
	useKeys({ n: () => setOpen(true) })
	return (
		<>
			<Button kind="main" hint="N" onClick={() => setOpen(true)}>
				Make a kind
			</Button>
			<Ask open={open} onClose={() => setOpen(false)} title="A new kind of paper" wide>
				<SavedForm
					label="Make it"
					saved="It is made."
					save={async (form) => {
						const outcome = await answered(newPaperKind(form))
						if (outcome.ok && outcome.id) router.push(`/papers/${outcome.id}`)
						return outcome
					}}
				>
					<div className="grid grid-cols-2 gap-4">
						<Radios label="Made from" name="records" options={sources} value={source} onChange={setSource} />
						{source === 'sheet' ? (
							<>
								<input type="hidden" name="base" value="unpriced" />
								<Radios label="One paper" name="each" options={ways} value={way} onChange={setWay} />
							</>
						) : (
							<Radios label="Its lines" name="base" options={bases} value={base} onChange={setBase} />
						)}
					</div>
					<KindFields kind={null} mayBecome={source === 'form' && base === 'priced'} />
				</SavedForm>
			</Ask>
		</>
	)
}

function Radios<Value extends string>({
	label,
	name,
	options,
	value,
	onChange,
}: {
	label: string
	name: string
	options: [Value, string, string][]
	value: Value
	onChange: (value: Value) => void
}) {
	return (
		<fieldset>
			<legend className="mb-1 text-sm font-semibold">{label}</legend>
			{options.map(([one, words, more]) => (
				<label key={one} className="flex items-start gap-2 py-0.5">
					<input
						type="radio"
						name={name}
						value={one}
						checked={value === one}
						onChange={() => onChange(one)}
						className="mt-1 accent-plum"
					/>
					<span>
						{words} <span className="block text-xs text-mute">{more}</span>
					</span>
				</label>
			))}
		</fieldset>
	)
}

'use client'
import { useState } from 'react'
import { change, revise } from '@/app/acts/document'
import type { PanelView } from '@/runs/panel'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'
import { DayField } from '@/ui/DayField'
import { inputLook, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

type Props = {
	open: boolean
	view: PanelView
	onClose: () => void
	/** Given for an issued invoice: hears the revision's id. */
	onRevised?: (id: number) => void
}
const columns = 'grid grid-cols-[minmax(0,1fr)_76px_96px_64px_72px] gap-1.5'

/** Changes a draft's lines, discounts, due date or recipient, or those of an invoice that is revised; all is computed anew when it is kept. */
export function ChangeAsk({ open, view, onClose, onRevised }: Props) {
	const [trouble, setTrouble] = useState('')
	const { document, lines, discounts, charges, credits } = view
	const keep = async (form: FormData) => {
		const text = (name: string) => String(form.get(name) ?? '').trim()
		const outcome = await (onRevised ? revise : change)(document.id, {
			lines: lines.map((_, line) => ({
				line,
				quantity: text(`quantity${line}`),
				unitPrice: text(`price${line}`) || null,
				discountPercent: text(`discount${line}`) || '0',
				description: text(`description${line}`),
				taxCode: text(`tax${line}`),
			})),
			...(credits
				? {}
				: {
						discounts: discounts.flatMap(({ label }, place) => (form.get(`taken${place}`) === 'on' ? [label] : [])),
						charges: [...(charges ?? []), null].map((_, place) => text(`charge${place}`)),
					}),
			dueDay: text('dueDay'),
			email: text('email'),
			reason: text('reason'),
		})
		if (outcome.ok) onClose()
		if (outcome.ok && outcome.id) onRevised?.(outcome.id)
		setTrouble(outcome.ok ? '' : outcome.message)
	}
	return (
		<Ask
			open={open}
			onClose={onClose}
			title={onRevised ? `Revise ${document.number}` : `Change the ${view.words.noun} to ${document.customer_name}`}
			wide
		>
			<form
				className="space-y-3"
				onSubmit={(event) => {
					event.preventDefault()
					void keep(new FormData(event.currentTarget))
				}}
			>
				{credits && (
					<p className="text-mute">
						It credits an invoice: price, discount and tax are the invoice’s, and no line goes beyond what is left of
						it.
					</p>
				)}
				{onRevised && (
					<p className="text-mute">
						The revision bears the same number and says that it is one. The invoice as first issued is kept, and sent no
						more.
					</p>
				)}
				<div className={`${columns} text-xs font-semibold text-mute`}>
					<span>Line</span>
					<span className="text-right">Quantity</span>
					<span className="text-right">Price</span>
					<span className="text-right">Less %</span>
					<span>Tax code</span>
				</div>
				<div className="scrolls -m-1 max-h-48 space-y-1.5 p-1">
					{lines.map((line, index) => {
						const name = `order ${line.order}, line ${index + 1}`
						return (
							<div key={index} className={columns}>
								<input
									name={`description${index}`}
									defaultValue={line.description}
									aria-label={`Text of ${name}`}
									className={inputLook}
								/>
								<input
									name={`quantity${index}`}
									defaultValue={line.quantity}
									aria-label={`Quantity of ${name}`}
									className={`${inputLook} figures text-right`}
								/>
								<input
									name={`price${index}`}
									readOnly={credits}
									defaultValue={line.unitPrice ?? ''}
									aria-label={`Price of ${name}`}
									placeholder="no price"
									// biome-ignore lint/a11y/noAutofocus: the question was asked for, and this is what it is about
									autoFocus={line.unitPrice === null}
									className={`${inputLook} figures text-right`}
								/>
								<input
									name={`discount${index}`}
									readOnly={credits}
									defaultValue={line.discountPercent}
									aria-label={`Discount of ${name}`}
									className={`${inputLook} figures text-right`}
								/>
								<input
									name={`tax${index}`}
									readOnly={credits}
									defaultValue={line.taxCode}
									aria-label={`Tax code of ${name}`}
									className={`${inputLook} figures`}
								/>
							</div>
						)
					})}
				</div>
				{discounts.length > 0 && (
					<fieldset className="flex flex-wrap gap-x-4 gap-y-1 pt-1">
						<legend className="pb-1 text-xs font-semibold text-mute">Discounts on the whole invoice</legend>
						{discounts.map(({ label, words, on }, place) => (
							<label key={label} className="flex items-center gap-1.5">
								<input type="checkbox" name={`taken${place}`} defaultChecked={on} className="size-4 accent-plum" />{' '}
								{words}
							</label>
						))}
					</fieldset>
				)}
				{charges && (
					<div className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-3">
						{[...charges, null].map((charge, place) => (
							<TextField
								key={charge?.label ?? 'more'}
								label={charge?.label || (charges.length === 0 ? 'Freight' : 'More freight')}
								name={`charge${place}`}
								defaultValue={charge?.typed ?? ''}
								className="figures"
								placeholder={charge ? undefined : '12.50 or 4%'}
							/>
						))}
					</div>
				)}
				<div className="grid grid-cols-[150px_1fr] gap-3">
					<DayField label="Due" name="dueDay" value={document.due_day} required />
					<TextField label="Send to" name="email" defaultValue={document.email} help="Empty: it is listed to print" />
				</div>
				<TextField label="Why" name="reason" required help="Kept with the invoice, beside what was changed" />
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				<div className="flex gap-2">
					<Button kind="main" type="submit">
						{onRevised ? 'Issue the revision' : 'Compute and keep'}
					</Button>
					<Button onClick={onClose}>Not now</Button>
				</div>
			</form>
		</Ask>
	)
}

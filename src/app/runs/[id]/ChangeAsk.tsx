'use client'
import { useState } from 'react'
import { change } from '@/app/acts'
import type { PanelView } from '@/runs/panel'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'
import { DayField } from '@/ui/DayField'
import { inputLook, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

type Props = { open: boolean; view: PanelView; onClose: () => void }
const columns = 'grid grid-cols-[minmax(0,1fr)_76px_96px_64px_72px] gap-1.5'

/** Changes a draft's lines, due date or recipient; what is typed is computed anew when it is kept. */
export function ChangeAsk({ open, view, onClose }: Props) {
	const [trouble, setTrouble] = useState('')
	const { document, lines } = view
	const keep = async (form: FormData) => {
		const text = (name: string) => String(form.get(name) ?? '').trim()
		const outcome = await change(document.id, {
			lines: lines.map((_, line) => ({
				line,
				quantity: text(`quantity${line}`),
				unitPrice: text(`price${line}`) || null,
				discountPercent: text(`discount${line}`) || '0',
				description: text(`description${line}`),
				taxCode: text(`tax${line}`),
			})),
			dueDay: text('dueDay'),
			email: text('email'),
			reason: text('reason'),
		})
		if (outcome.ok) onClose()
		setTrouble(outcome.ok ? '' : outcome.message)
	}
	return (
		<Ask open={open} onClose={onClose} title={`Change the invoice to ${document.customer_name}`} wide>
			<form
				className="space-y-3"
				onSubmit={(event) => {
					event.preventDefault()
					void keep(new FormData(event.currentTarget))
				}}
			>
				<div className={`${columns} text-xs font-semibold text-mute`}>
					<span>Line</span>
					<span className="text-right">Quantity</span>
					<span className="text-right">Price</span>
					<span className="text-right">Less %</span>
					<span>Tax code</span>
				</div>
				<div className="scrolls -m-1 max-h-64 space-y-1.5 p-1">
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
									defaultValue={line.unitPrice ?? ''}
									aria-label={`Price of ${name}`}
									placeholder="no price"
									// biome-ignore lint/a11y/noAutofocus: the question was asked for, and this is what it is about
									autoFocus={line.unitPrice === null}
									className={`${inputLook} figures text-right`}
								/>
								<input
									name={`discount${index}`}
									defaultValue={line.discountPercent}
									aria-label={`Discount of ${name}`}
									className={`${inputLook} figures text-right`}
								/>
								<input
									name={`tax${index}`}
									defaultValue={line.taxCode}
									aria-label={`Tax code of ${name}`}
									className={`${inputLook} figures`}
								/>
							</div>
						)
					})}
				</div>
				<div className="grid grid-cols-[150px_1fr] gap-3">
					<DayField label="Due" name="dueDay" value={document.due_day} required />
					<TextField label="Send to" name="email" defaultValue={document.email} help="Empty: it is listed to print" />
				</div>
				<TextField label="Why" name="reason" required help="Kept with the invoice, beside what was changed" />
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				<div className="flex gap-2">
					<Button kind="main" type="submit">
						Compute and keep
					</Button>
					<Button onClick={onClose}>Not now</Button>
				</div>
			</form>
		</Ask>
	)
}

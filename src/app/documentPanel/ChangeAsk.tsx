'use client'
import { useEffect, useRef, useState, useTransition } from 'react'
import { change, revise } from '@/app/acts/document'
import type { PanelView } from '@/runs/bench/panel'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'
import { DayField } from '@/ui/DayField'
import { inputLook, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { AddedLines } from './AddedLines'
import { BothStates } from './BothStates'
import { type Apart, meet, sameShape, takenOf } from './meeting'
import { useSeen } from './useSeen'

type Props = {
	open: boolean
	view: PanelView
	onClose: () => void
	/** Given for an issued invoice: hears the revision's id. */
	onRevised?: (id: number) => void
	/** What of its customer's particulars changed since it was issued, in words; empty for nothing. */
	moved?: string
}
const columns = 'grid grid-cols-[minmax(0,1fr)_76px_96px_64px_86px_34px] items-center gap-1.5'

/** Puts a value into a field of the form. */
function fill(form: HTMLFormElement, name: string, value: string): void {
	const field = form.elements.namedItem(name)
	if (field instanceof HTMLSelectElement) field.value = value
	if (!(field instanceof HTMLInputElement)) return
	if (field.type === 'checkbox') field.checked = value === 'on'
	else field.value = value
}

/**
 * Changes a draft's lines, discounts, due date or recipient, or those of an invoice that is revised; all is computed anew when it is kept.
 * It stays open, with what was typed, until that is kept: also where another changed the draft meanwhile.
 */
export function ChangeAsk({ open, ...rest }: Props) {
	return open ? <Changing {...rest} /> : null
}

function Changing({ view, onClose, onRevised, moved = '' }: Omit<Props, 'open'>) {
	const [begun, setBegun] = useState({ view, again: 0 })
	return (
		<ChangeForm
			key={begun.again}
			view={begun.view}
			onClose={onClose}
			onAgain={(now) => setBegun({ view: now, again: begun.again + 1 })}
			moved={moved}
			{...(onRevised ? { onRevised } : {})}
		/>
	)
}

function ChangeForm({
	view: first,
	onClose,
	onRevised,
	moved,
	onAgain,
}: Omit<Props, 'open'> & { onAgain: (now: PanelView) => void }) {
	const { opened: view, trouble, now, keep } = useSeen(first)
	const [apart, setApart] = useState<Apart[]>([])
	const [adding, setAdding] = useState<number[]>([])
	const [busy, start] = useTransition()
	const { document, lines, discounts, charges, credits } = view
	const save = (element: HTMLFormElement) =>
		start(async () => {
			const form = new FormData(element)
			const text = (name: string) => String(form.get(name) ?? '').trim()
			const wanted = {
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
							discounts: discounts.flatMap(({ label }) => (form.get(takenOf(label)) === 'on' ? [label] : [])),
							charges: [...(charges ?? []), null].map((_, place) => text(`charge${place}`)),
						}),
				...(mayMove
					? {
							off: lines.flatMap((_, line) => (form.get(`off${line}`) === 'on' ? [line] : [])),
							added: adding.map((place) => ({
								item: text(`newItem${place}`),
								description: text(`newText${place}`),
								quantity: text(`newQuantity${place}`),
								unitPrice: text(`newPrice${place}`),
								taxCode: text(`newTax${place}`),
							})),
						}
					: {}),
				dueDay: text('dueDay'),
				email: text('email'),
				reason: text('reason'),
				...(moved ? { particulars: text('particulars') } : {}),
			}
			const kept = await keep((seen) => (onRevised ? revise(document.id, wanted) : change(document.id, wanted, seen)))
			if (kept.now) {
				const met = meet(view, kept.now, (name) => String(form.get(name) ?? ''))
				for (const [name, value] of met.follow) fill(element, name, value)
				setApart(met.apart)
			}
			if (!kept.outcome.ok) return
			onClose()
			if (kept.outcome.id) onRevised?.(kept.outcome.id)
		})
	/** Whether lines can be taken off and added: those of a draft invoice. */
	const mayMove = first.bills && !credits && !onRevised
	// What happened meanwhile stands at the top, and is brought into view.
	const top = useRef<HTMLDivElement>(null)
	useEffect(() => {
		if (now) top.current?.scrollIntoView({ block: 'center' })
	}, [now])
	const fixed = now !== null && (now.document.number !== null || !sameShape(first, now))
	return (
		<Ask
			open
			onClose={onClose}
			title={onRevised ? `Revise ${document.number}` : `Change the ${view.words.noun} to ${document.customer_name}`}
			wide
		>
			<form
				className="space-y-3"
				onSubmit={(event) => {
					event.preventDefault()
					save(event.currentTarget)
				}}
			>
				{now && (
					<div ref={top} className="space-y-2">
						{trouble && <Notice tone="stop">{trouble}</Notice>}
						<BothStates apart={apart} />
						{now && !fixed && (
							<p className="text-mute">
								What you left alone follows the draft as it is now. What you typed stands in the fields below: change it
								there, or keep it over theirs.
							</p>
						)}
					</div>
				)}
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
				{moved && (
					<fieldset className="space-y-1">
						<legend className="font-semibold">{`Their name, address or tax changed since: ${moved}`}</legend>
						{[
							['as now', 'The revision has them as they are now'],
							['as issued', 'The revision has them as they were issued'],
						].map(([value, words]) => (
							<label key={value} className="flex items-center gap-2">
								<input type="radio" name="particulars" value={value} required className="size-4 accent-plum" /> {words}
							</label>
						))}
					</fieldset>
				)}
				<div className={`${columns} text-xs font-semibold text-mute`}>
					<span>Line</span>
					<span className="text-right">Quantity</span>
					<span className="text-right">Price</span>
					<span className="text-right">Less %</span>
					<span>Tax code</span>
					<span>{mayMove ? 'Off' : ''}</span>
				</div>
				<div className="scrolls -m-1 max-h-48 space-y-1.5 p-1">
					{first.lines.map((line, index) => {
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
								{credits ? (
									<input
										name={`tax${index}`}
										readOnly
										defaultValue={line.taxCode}
										aria-label={`Tax code of ${name}`}
										className={`${inputLook} figures`}
									/>
								) : (
									<select
										name={`tax${index}`}
										defaultValue={line.taxCode}
										aria-label={`Tax code of ${name}`}
										className={`${inputLook} figures`}
									>
										{!view.taxCodes.some(({ code }) => code === line.taxCode) && (
											<option value={line.taxCode}>{line.taxCode || 'none'}</option>
										)}
										{view.taxCodes.map(({ code, name: words }) => (
											<option key={code} value={code} title={words}>
												{code}
											</option>
										))}
									</select>
								)}
								{mayMove && (
									<input
										type="checkbox"
										name={`off${index}`}
										aria-label={`Take off ${name}`}
										title="Taken off, it waits for the next run"
										className="size-4 accent-plum"
									/>
								)}
							</div>
						)
					})}
				</div>
				{mayMove && (
					<AddedLines
						places={adding}
						taxCodes={view.taxCodes}
						onAdd={() => setAdding([...adding, (adding.at(-1) ?? -1) + 1])}
						onRemove={(place) => setAdding(adding.filter((one) => one !== place))}
					/>
				)}
				{discounts.length > 0 && (
					<fieldset className="flex flex-wrap gap-x-4 gap-y-1 mt-2 pt-1">
						<legend className="pb-1 text-xs font-semibold text-mute">Discounts on the whole invoice</legend>
						{discounts.map(({ label, words, on }) => (
							<label key={label} className="flex items-center gap-1.5">
								<input type="checkbox" name={takenOf(label)} defaultChecked={on} className="size-4 accent-plum" />{' '}
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
				{trouble && !now && <Notice tone="stop">{trouble}</Notice>}
				<div className="sticky -bottom-5 -mx-5 -mb-5 flex flex-wrap gap-2 bg-sheet px-5 pt-2 pb-5">
					<Button kind="main" type="submit" disabled={busy || fixed}>
						{onRevised ? 'Issue the revision' : now && !fixed ? 'Keep mine over theirs' : 'Compute and keep'}
					</Button>
					{now && now.document.number === null && (
						<Button onClick={() => onAgain(now)}>Begin again from how it is now</Button>
					)}
					<Button onClick={onClose}>Not now</Button>
				</div>
			</form>
		</Ask>
	)
}

'use client'
import { useRef } from 'react'
import { formatAmount } from '@/core/format'
import type { FormLine, FormTrouble } from '@/intake/orderForm'
import type { FormLineSeen } from '@/runs/drafts/orderForm'
import { inputLook } from '@/ui/Field'
import { Finder } from './Finder'

type Props = {
	place: number
	line: FormLine
	/** What it becomes; null where it cannot be read yet. */
	seen: FormLineSeen | null
	taxCodes: [code: string, words: string][]
	own: { key: string; name: string }[]
	/** Whether it is the one that is still blank at the end. */
	isLast: boolean
	troubleAt: (field: string) => FormTrouble | null
	onSet: (part: Partial<FormLine>) => void
	onDrop: () => void
	onNext: () => void
}

/** A line of an order: what its item says stands in grey where nothing is written over it. */
export function PadLine({ place, line, seen, taxCodes, own, isLast, troubleAt, onSet, onDrop, onNext }: Props) {
	const row = useRef<HTMLTableRowElement>(null)
	const fields = ['item', 'description', 'quantity', 'unit', 'unitPrice', 'lineDiscount', 'taxCode']
	const troubles = [...fields, ...own.map(({ key }) => `own ${key}`)].flatMap((field) => troubleAt(field) ?? [])
	const name = (words: string) => `${words} of line ${place + 1}`
	// The short way by Enter: item, quantity, and what is not known yet.
	const onWay = {
		description: line.item === '' && !isLast,
		quantity: true,
		unit: false,
		unitPrice: (seen?.unitPrice ?? '') === '' || line.unitPrice !== '',
		lineDiscount: false,
	}
	const cell = (
		field: 'description' | 'quantity' | 'unit' | 'unitPrice' | 'lineDiscount',
		words: string,
		hint = '',
	) => {
		const right = field === 'quantity' || field === 'unitPrice' || field === 'lineDiscount'
		return (
			<td className="px-1 py-1">
				<input
					aria-label={name(words)}
					aria-invalid={troubleAt(field) !== null}
					aria-describedby={troubleAt(field) ? `why-${place}` : undefined}
					inputMode={right ? 'decimal' : undefined}
					data-way={onWay[field] || undefined}
					value={line[field]}
					placeholder={hint}
					onChange={(event) => onSet({ [field]: event.target.value })}
					className={`${inputLook} py-1 ${right ? 'figures text-right' : ''} ${troubleAt(field) ? 'border-brick' : ''}`}
				/>
			</td>
		)
	}
	const toQuantity = () =>
		window.setTimeout(() => row.current?.querySelector<HTMLInputElement>('input[aria-label^="Quantity"]')?.focus(), 0)
	return (
		<>
			<tr ref={row} className="border-t border-rule-soft align-top">
				<td className="figures py-2 pl-5 text-mute">{isLast ? '' : place + 1}</td>
				<td className="px-1 py-1">
					<Finder
						what="item"
						label={name('Item')}
						value={line.item}
						invalid={troubleAt('item') !== null}
						describedBy={troubleAt('item') ? `why-${place}` : undefined}
						onType={(words) => onSet({ item: words })}
						onChoose={({ code }) => {
							onSet({ item: code })
							toQuantity()
						}}
						onEnter={() => {
							const leaves = isLast && place > 0 && line.item.trim() === ''
							if (leaves) row.current?.closest('form')?.querySelector<HTMLElement>('[aria-label="Discount %"]')?.focus()
							else onNext()
						}}
					/>
				</td>
				{cell('description', 'Text', seen?.description)}
				{cell('quantity', 'Quantity')}
				{cell('unit', 'Unit', seen?.unit)}
				{cell('unitPrice', 'Price', seen?.unitPrice)}
				{cell('lineDiscount', 'Discount')}
				<td className="px-1 py-1">
					<select
						aria-label={name('Tax')}
						aria-invalid={troubleAt('taxCode') !== null}
						aria-describedby={troubleAt('taxCode') ? `why-${place}` : undefined}
						value={line.taxCode}
						onChange={(event) => onSet({ taxCode: event.target.value })}
						className={`${inputLook} py-1 ${line.taxCode === '' ? 'text-mute' : ''} ${troubleAt('taxCode') ? 'border-brick' : ''}`}
					>
						<option value="">{seen?.taxCode ?? ''}</option>
						{taxCodes.map(([code, words]) => (
							<option key={code} value={code} title={words}>
								{code}
							</option>
						))}
					</select>
				</td>
				<td className="figures px-1 py-2 text-right font-semibold">{seen?.net ? formatAmount(seen.net) : ''}</td>
				<td className="py-2 pr-5 text-right">
					{!isLast && (
						<button
							type="button"
							tabIndex={-1}
							onClick={onDrop}
							aria-label={`Take line ${place + 1} out`}
							title="Take it out"
							className="text-plum hover:underline"
						>
							×
						</button>
					)}
				</td>
			</tr>
			{own.length > 0 && !isLast && (
				<tr>
					<td />
					<td colSpan={8} className="px-1 pb-1">
						<div className="flex flex-wrap gap-3">
							{own.map(({ key, name: label }) => (
								<label key={key} className="flex items-center gap-1.5 text-mute">
									{label}
									<input
										aria-invalid={troubleAt(`own ${key}`) !== null}
										value={line.own[key] ?? ''}
										onChange={(event) => onSet({ own: { ...line.own, [key]: event.target.value } })}
										className={`${inputLook} py-0.5`}
										style={{ width: '9rem' }}
									/>
								</label>
							))}
						</div>
					</td>
				</tr>
			)}
			{troubles.length > 0 && (
				<tr>
					<td />
					<td id={`why-${place}`} colSpan={9} className="px-1 pb-1 text-xs text-brick">
						{troubles.map(({ words }) => words).join(' ')}
					</td>
				</tr>
			)}
		</>
	)
}

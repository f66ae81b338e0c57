'use client'
import type { PanelView } from '@/runs/bench/panel'
import { Button } from '@/ui/Button'
import { inputLook } from '@/ui/Field'

/** Lines that are added to the invoice; together they are an order of their own. */
export function AddedLines({
	places,
	taxCodes,
	onAdd,
	onRemove,
}: {
	places: number[]
	taxCodes: PanelView['taxCodes']
	onAdd: () => void
	onRemove: (place: number) => void
}) {
	const look = 'grid grid-cols-[104px_minmax(0,1fr)_76px_96px_110px_34px] items-center gap-1.5'
	return (
		<div className="mt-4 space-y-1.5">
			{places.map((place, index) => (
				<div key={place} className={look}>
					<input
						name={`newItem${place}`}
						aria-label={`Item of added line ${index + 1}`}
						placeholder="Item"
						// biome-ignore lint/a11y/noAutofocus: it was just asked for
						autoFocus
						className={`${inputLook} figures`}
					/>
					<input
						name={`newText${place}`}
						aria-label={`Text of added line ${index + 1}`}
						placeholder="Text; empty: the item’s"
						className={inputLook}
					/>
					<input
						name={`newQuantity${place}`}
						aria-label={`Quantity of added line ${index + 1}`}
						placeholder="1"
						required
						className={`${inputLook} figures text-right`}
					/>
					<input
						name={`newPrice${place}`}
						aria-label={`Price of added line ${index + 1}`}
						placeholder="item’s"
						className={`${inputLook} figures text-right`}
					/>
					<select
						name={`newTax${place}`}
						defaultValue=""
						aria-label={`Tax code of added line ${index + 1}`}
						className={`${inputLook} figures`}
					>
						<option value="">item’s</option>
						{taxCodes.map(({ code }) => (
							<option key={code}>{code}</option>
						))}
					</select>
					<Button kind="bare" aria-label={`Leave out added line ${index + 1}`} onClick={() => onRemove(place)}>
						×
					</Button>
				</div>
			))}
			<Button kind="bare" onClick={onAdd}>
				Add a line
			</Button>
		</div>
	)
}

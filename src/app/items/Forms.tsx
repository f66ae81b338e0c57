'use client'
import { setChecks, setFreightTaxCode, setItem, setTaxRate } from '@/app/acts'
import { amountText } from '@/core/currency'
import type { Settings } from '@/store/settings'
import { DayField } from '@/ui/DayField'
import { Choice, TextField } from '@/ui/Field'
import { SavedForm } from '@/ui/SavedForm'

export function TaxRateForm({ today }: { today: string }) {
	return (
		<details className="px-5 py-3">
			<summary className="text-plum">Add a tax code, or a new rate of one</summary>
			<div className="mt-3 max-w-3xl">
				<SavedForm save={setTaxRate} label="Add the rate" saved="Added." resets>
					<div className="grid grid-cols-4 gap-4">
						<TextField label="Code" name="code" required className="figures" />
						<TextField label="Name" name="name" required />
						<TextField label="Rate, percent" name="rate" required className="figures" />
						<DayField label="From" name="from_day" value={today} required />
					</div>
				</SavedForm>
			</div>
		</details>
	)
}

export function FreightTaxCode({ codes, value }: { codes: string[]; value: string }) {
	return (
		<div className="max-w-60 px-5 pb-4">
			<Choice
				label="Tax code of freight"
				value={value}
				options={[['', 'as the order’s first line'], ...codes.map((code): [string, string] => [code, code])]}
				onChange={(event) => void setFreightTaxCode(event.target.value)}
			/>
		</div>
	)
}

export function ItemForm({ codes, home }: { codes: string[]; home: string }) {
	return (
		<details className="px-5 py-3">
			<summary className="text-plum">Add an item, or change one by its code</summary>
			<div className="mt-3 max-w-3xl">
				<SavedForm save={setItem} label="Save the item" saved="Saved." resets>
					<div className="grid grid-cols-3 gap-4">
						<TextField label="Code" name="code" required className="figures" />
						<TextField label="Description" name="description" required />
						<TextField label="Unit" name="unit" />
						<TextField label="Price" name="unit_price" required className="figures" />
						<TextField label="for a quantity of" name="price_per" defaultValue="1" required className="figures" />
						<TextField label="Currency" name="currency" defaultValue={home} required className="figures" />
						<Choice label="Tax code" name="tax_code" options={codes.map((code) => [code, code])} />
					</div>
				</SavedForm>
			</div>
		</details>
	)
}

type Thresholds = Pick<Settings, 'lookAbove' | 'usualTimes' | 'priceShare' | 'closedTo'>

export function ChecksForm({ settings, home }: { settings: Thresholds; home: string }) {
	return (
		<div className="max-w-3xl px-5 pb-6">
			<SavedForm save={setChecks} label="Save the checks" saved="Saved. Runs gathered from here on are checked by it.">
				<div className="grid grid-cols-4 gap-4">
					<TextField
						label={`Total above, ${home}`}
						name="lookAbove"
						defaultValue={settings.lookAbove === 0 ? '' : amountText(BigInt(settings.lookAbove), home)}
						className="figures"
						help="Empty: never"
					/>
					<TextField
						label="Times the usual"
						name="usualTimes"
						type="number"
						step="0.1"
						min={1}
						defaultValue={settings.usualTimes}
						className="figures"
						help="Of the middle of their last twelve"
					/>
					<TextField
						label="Price off by, percent"
						name="priceShare"
						type="number"
						min={0}
						defaultValue={settings.priceShare}
						className="figures"
						help="From the item’s; 0: never"
					/>
					<DayField
						label="Books closed to"
						name="closedTo"
						value={settings.closedTo}
						help="Nothing may be dated up to then"
					/>
				</div>
			</SavedForm>
		</div>
	)
}

'use client'
import { setFreightTaxCode, setItem, setTaxRate } from '@/app/acts'
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
						<TextField label="From" name="from_day" type="date" defaultValue={today} required />
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

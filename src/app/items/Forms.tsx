'use client'
import {
	setChecks,
	setDiscount,
	setExchangeRate,
	setFreight,
	setGround,
	setItem,
	setTaxRate,
} from '@/app/acts/catalogue'
import {
	type AskedFor,
	type CheckSetting,
	type CheckSettings,
	checkFields,
	checkSettings,
} from '@/core/checks/settings'
import { amountText } from '@/core/currency'
import { leastsText } from '@/core/leasts'
import type { OwnField } from '@/core/ownFields'
import type { Settings } from '@/store/settings'
import { DayField } from '@/ui/DayField'
import { Choice, TextField } from '@/ui/Field'
import { OwnInputs } from '@/ui/OwnInputs'
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

/** The languages that grounds can be said in, by their own names. */
const languages: [string, string][] = [
	['en', 'English'],
	['de', 'Deutsch'],
	['fr', 'Français'],
	['es', 'Español'],
	['nl', 'Nederlands'],
	['nb', 'Norsk'],
	['da', 'Dansk'],
	['sv', 'Svenska'],
]

export function GroundForm({ codes }: { codes: string[] }) {
	const options: [string, string][] = [
		['EXEMPT', 'exempt customers'],
		['REVERSE', 'reverse charge'],
		...codes.map((code): [string, string] => [code, `tax code ${code}`]),
	]
	return (
		<details className="px-5 py-3">
			<summary className="text-plum">Say it in other words, or in another language</summary>
			<div className="mt-3 max-w-3xl">
				<SavedForm save={setGround} label="Save the words" saved="Saved. Drafts are looked at again." resets>
					<div className="grid grid-cols-[1fr_1fr_2fr] gap-4">
						<Choice label="For" name="code" options={options} />
						<Choice label="Language" name="language" options={languages} />
						<TextField label="Words" name="words" help="With the article that it rests on. Empty: the usual ones" />
					</div>
				</SavedForm>
			</div>
		</details>
	)
}

export function ExchangeForm({ today, home }: { today: string; home: string }) {
	return (
		<details className="px-5 py-3">
			<summary className="text-plum">Add what a currency is worth</summary>
			<div className="mt-3 max-w-3xl">
				<SavedForm save={setExchangeRate} label="Add the worth" saved="Added. Drafts are looked at again." resets>
					<div className="grid grid-cols-3 gap-4">
						<TextField label="Currency" name="currency" required className="figures" />
						<TextField label={`1 of it in ${home}`} name="rate" required className="figures" />
						<DayField label="From" name="day" value={today} required />
					</div>
				</SavedForm>
			</div>
		</details>
	)
}

type FreightProps = { codes: string[]; taxCode: string; freight: Settings['freight']; home: string }

export function FreightForm({ codes, taxCode, freight, home }: FreightProps) {
	return (
		<div className="max-w-3xl px-5 pb-4">
			<SavedForm save={setFreight} label="Save the freight" saved="Saved. Drafts from here on are made with it.">
				<div className="grid grid-cols-4 gap-4">
					<TextField
						label={`Amount, ${home}`}
						name="amount"
						defaultValue={freight.amount}
						className="figures"
						help="For each order that names none"
					/>
					<TextField
						label="or percent"
						name="percent"
						defaultValue={freight.percent}
						className="figures"
						help="Of the goods, less discounts"
					/>
					<Choice
						label="Tax code of freight"
						name="freightTaxCode"
						defaultValue={taxCode}
						options={[['', 'as the order’s first line'], ...codes.map((code): [string, string] => [code, code])]}
					/>
				</div>
			</SavedForm>
		</div>
	)
}

export function DiscountForm({ today, home }: { today: string; home: string }) {
	return (
		<details className="px-5 py-3">
			<summary className="text-plum">Add a discount, or change one by its name</summary>
			<div className="mt-3 max-w-3xl">
				<SavedForm
					save={setDiscount}
					label="Save the discount"
					saved="Saved. Drafts from here on are made with it."
					resets
				>
					<div className="grid grid-cols-4 gap-4">
						<TextField label="Name" name="label" required help="As it stands on the invoice" />
						<TextField label="Percent" name="percent" className="figures" help="Of the lines together" />
						<TextField label="or amount" name="amount" className="figures" help="Off each invoice" />
						<TextField label="Currency" name="currency" defaultValue={home} required className="figures" />
						<DayField label="From" name="from_day" value={today} required />
						<DayField label="To" name="to_day" value="" help="Empty: until further notice" />
						<label className="col-span-2 mt-7 flex items-center gap-2">
							<input type="checkbox" name="for_all" className="size-4 accent-plum" />
							On every invoice dated in that time
						</label>
					</div>
				</SavedForm>
			</div>
		</details>
	)
}

export function ItemForm({ codes, home, ownFields: own }: { codes: string[]; home: string; ownFields: OwnField[] }) {
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
						<OwnInputs fields={own} values={{}} help="Empty: as it is" />
					</div>
				</SavedForm>
			</div>
		</details>
	)
}

/** A setting of a check, asked for as it is declared; a yes or no takes a line of its own. */
function CheckField({ name, value, home }: { name: CheckSetting; value: string | number | boolean; home: string }) {
	const asked = checkFields[name]
	switch (asked.as) {
		case 'amount':
			return (
				<TextField
					label={`${asked.label}, ${home}`}
					name={name}
					defaultValue={value === 0 ? '' : amountText(BigInt(Number(value)), home)}
					className="figures"
					help={asked.help}
				/>
			)
		case 'figure':
			return (
				<TextField
					label={asked.label}
					name={name}
					type="number"
					step={asked.step}
					min={asked.least}
					max={asked.most}
					defaultValue={Number(value)}
					className="figures"
					help={asked.help}
				/>
			)
		case 'day':
			return <DayField label={asked.label} name={name} value={String(value)} help={asked.help} />
		case 'switch':
			return (
				<label className="col-span-5 flex items-center gap-2">
					<input type="checkbox" name={name} defaultChecked={value === true} className="size-4 accent-plum" />
					{asked.label}
				</label>
			)
	}
}

type Thresholds = CheckSettings & Pick<Settings, 'rateBy' | 'extractLimits'>

export function ChecksForm({ settings, home }: { settings: Thresholds; home: string }) {
	const fields = (own: (asked: AskedFor) => boolean) =>
		checkSettings
			.filter((name) => own(checkFields[name]))
			.map((name) => <CheckField key={name} name={name} value={settings[name]} home={home} />)
	return (
		<div className="max-w-4xl px-5 pb-6">
			<SavedForm save={setChecks} label="Save the checks" saved="Saved. Drafts are looked at again.">
				<div className="grid grid-cols-5 gap-4">
					{fields(({ as }) => as !== 'switch')}
					<Choice
						label="Rate of tax of"
						name="rateBy"
						defaultValue={settings.rateBy}
						options={[
							['supply', 'the day of supply'],
							['document', 'the document’s day'],
						]}
					/>
					<TextField
						label="Extract settles, percent"
						name="extractPercent"
						type="number"
						min={0}
						max={100}
						defaultValue={settings.extractLimits.percent}
						className="figures"
						help="Of what is open in a currency; more than that"
					/>
					<TextField
						label={`and more than, ${home}`}
						name="extractAmount"
						defaultValue={leastsText(
							{ least: settings.extractLimits.amount, leasts: settings.extractLimits.amounts },
							home,
						)}
						className="figures"
						help="is accepted with a reason alone. Other currencies after semicolons: 1,000.00; JPY 50000"
					/>
					{fields(({ as }) => as === 'switch')}
				</div>
			</SavedForm>
		</div>
	)
}

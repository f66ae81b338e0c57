import type { Metadata } from 'next'
import { PicturesForm } from '@/app/OwnPictures'
import { dayText } from '@/core/calendar'
import { formatDecimal } from '@/core/format'
import { usualGround } from '@/core/law'
import { type OwnField, readOwn } from '@/core/ownFields'
import type { Books } from '@/store/books'
import { allDiscounts, allExchangeRates, allGrounds, allItems, allTaxRates, type Item } from '@/store/catalogue'
import { homeCurrency } from '@/store/company'
import { ownFieldsOf } from '@/store/ownFields'
import { readSettings } from '@/store/settings'
import type { Column } from '@/ui/column'
import { Empty, PageHead, Section } from '@/ui/Page'
import { ScrollBox } from '@/ui/ScrollBox'
import { Table } from '@/ui/Table'
import { reading } from '../reading'
import { ChecksForm, DiscountForm, ExchangeForm, FreightForm, GroundForm, ItemForm, TaxRateForm } from './Forms'

export const metadata: Metadata = { title: 'Items and rates' }

/** What is said for want of tax: the usual words in English, and what the firm says instead or besides. */
function groundRows(books: Books): { code: string; language: string; words: string }[] {
	const said = [...allGrounds(books)].map(([key, words]) => {
		const [code = '', language = ''] = key.split(' ')
		return { code, language, words }
	})
	const usual = ['EXEMPT', 'REVERSE']
		.filter((code) => !said.some((own) => own.code === code && own.language === 'en'))
		.map((code) => ({ code, language: 'en', words: usualGround(code, 'en') }))
	return [...usual, ...said]
}

/** What stands in the firm's own fields of an item, with its pictures small. */
const ownColumn = (fields: OwnField[]): Column<Item> => ({
	key: 'own',
	label: fields.map(({ name }) => name).join(', '),
	cell: ({ code, own }) => {
		const values = readOwn(own)
		return (
			<span className="flex items-center gap-2">
				{fields.map(({ key, name, type }) =>
					!values[key] ? null : type === 'picture' ? (
						<img
							key={key}
							src={`/api/images/${values[key]}`}
							alt={`${name} of ${code}`}
							className="h-7 max-w-14 bg-white"
						/>
					) : (
						<span key={key}>{values[key]}</span>
					),
				)}
			</span>
		)
	},
})

export default async function ItemsPage() {
	const { books, today } = await reading()
	const items = allItems(books)
	const ownFields = ownFieldsOf(books, 'item')
	const rates = allTaxRates(books)
	const discounts = allDiscounts(books)
	const settings = readSettings(books)
	const home = homeCurrency(books)
	const exchange = allExchangeRates(books)
	const codes = [...new Set(rates.map(({ code }) => code))]
	return (
		<>
			<PageHead title="Items and rates" about={`${items.length} items, ${codes.length} tax codes`} />
			<Section
				title="Tax codes"
				aside={
					settings.rateBy === 'supply'
						? 'The rate on the day of supply decides, which is the order’s'
						: 'The rate on the document’s date decides'
				}
			>
				{rates.length === 0 ? (
					<Empty title="There are no tax codes yet">
						<p>Add the first one below, or bring in a file of them. Items and order lines name them.</p>
					</Empty>
				) : (
					<Table
						label="Tax codes"
						rows={rates}
						rowKey={({ code, from_day }) => code + from_day}
						columns={[
							{
								key: 'code',
								label: 'Code',
								width: '120px',
								cell: ({ code }) => <span className="figures">{code}</span>,
							},
							{ key: 'name', label: 'Name', width: '240px', cell: ({ name }) => name },
							{
								key: 'rate',
								label: 'Rate',
								figures: true,
								width: '100px',
								cell: ({ rate }) => `${formatDecimal(rate)}%`,
							},
							{ key: 'from', label: 'From', cell: ({ from_day }) => dayText(from_day) },
						]}
					/>
				)}
				<TaxRateForm today={today} />
			</Section>
			<Section title="Why there is no tax" aside="In words on the invoice, in the customer’s language">
				<p className="px-5 pt-1 pb-2 text-mute">
					For customers who are exempt or billed by reverse charge, and for tax codes without tax that have words here.
				</p>
				<Table
					label="Why there is no tax"
					rows={groundRows(books)}
					rowKey={({ code, language }) => code + language}
					columns={[
						{ key: 'code', label: 'For', width: '120px', cell: ({ code }) => <span className="figures">{code}</span> },
						{ key: 'language', label: 'Language', width: '100px', cell: ({ language }) => language },
						{ key: 'words', label: 'Words', cell: ({ words }) => words },
					]}
				/>
				<GroundForm codes={codes} />
			</Section>
			<Section title="Worth of currencies" aside={`Tax on an invoice in another currency stands on it in ${home} too`}>
				{exchange.length === 0 ? (
					<p className="px-5 pt-1 text-mute">
						None yet. An invoice with tax in another currency than {home} is stopped until its worth is known.
					</p>
				) : (
					<Table
						label="Worth of currencies"
						rows={exchange}
						rowKey={({ currency, day }) => currency + day}
						columns={[
							{
								key: 'currency',
								label: '1 of',
								width: '120px',
								cell: ({ currency }) => <span className="figures">{currency}</span>,
							},
							{ key: 'rate', label: `in ${home}`, figures: true, width: '140px', cell: ({ rate }) => rate },
							{ key: 'day', label: 'From', cell: ({ day }) => dayText(day) },
						]}
					/>
				)}
				<ExchangeForm today={today} home={home} />
			</Section>
			<Section
				title="Discounts"
				aside="On the whole invoice; the invoice’s date decides. A customer’s standing discount is set under Accounts"
			>
				{discounts.length === 0 ? (
					<p className="px-5 pt-1 text-mute">
						None yet. An order names a discount in its column “Discount name”; or it is taken on every invoice, or put
						on with Change.
					</p>
				) : (
					<Table
						label="Discounts"
						rows={discounts}
						rowKey={({ label }) => label}
						columns={[
							{ key: 'label', label: 'Name', width: '240px', cell: ({ label }) => label },
							{
								key: 'value',
								label: 'Off',
								figures: true,
								width: '140px',
								cell: ({ percent, amount, currency }) =>
									percent ? `${formatDecimal(percent)}%` : `${formatDecimal(amount, 'en-GB', 2)} ${currency}`,
							},
							{
								key: 'days',
								label: 'Dated',
								cell: ({ from_day, to_day }) =>
									to_day ? `${dayText(from_day)} to ${dayText(to_day)}` : `from ${dayText(from_day)}`,
							},
							{
								key: 'whom',
								label: 'Taken',
								cell: ({ for_all }) => (for_all ? 'on every invoice' : 'where an order or a draft names it'),
							},
						]}
					/>
				)}
				<DiscountForm today={today} home={home} />
			</Section>
			<Section title="Freight" aside="Where an order names none; one that names it carries its own">
				<FreightForm codes={codes} taxCode={settings.freightTaxCode} freight={settings.freight} home={home} />
			</Section>
			<Section title="Items" aside="Orders may name other prices; these stand where an order gives a code alone">
				{items.length === 0 ? (
					<Empty title="There are no items yet">
						<p>
							Bring in a file of items, or add one below. An order may name an item that is not here; its line then
							carries what the order says.
						</p>
					</Empty>
				) : (
					<ScrollBox label="All items" height={420}>
						<Table
							label="Items"
							rows={items}
							rowKey={({ code }) => code}
							columns={[
								{ key: 'code', label: 'Item', cell: ({ code }) => <span className="figures">{code}</span> },
								{ key: 'description', label: 'Description', cell: ({ description }) => description },
								{
									key: 'price',
									label: 'Price',
									figures: true,
									cell: ({ unit_price, currency }) => `${formatDecimal(unit_price, 'en-GB', 2)} ${currency}`,
								},
								{
									key: 'per',
									label: 'per',
									cell: ({ price_per, unit }) => (price_per === '1' ? unit : `${formatDecimal(price_per)} ${unit}`),
								},
								{ key: 'tax', label: 'Tax code', cell: ({ tax_code }) => <span className="figures">{tax_code}</span> },
								...(ownFields.length > 0 ? [ownColumn(ownFields)] : []),
							]}
						/>
					</ScrollBox>
				)}
				{codes.length > 0 && <ItemForm codes={codes} home={home} ownFields={ownFields} />}
				{items.length > 0 && <PicturesForm of="item" fields={ownFields.filter(({ type }) => type === 'picture')} />}
			</Section>
			<Section title="Checks" aside="From when on an invoice is worth a look, and what stops it">
				<ChecksForm settings={settings} home={home} />
			</Section>
		</>
	)
}

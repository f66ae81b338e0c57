'use client'
import { setCustomer } from '@/app/acts/account'
import { companionLists } from '@/core/companions'
import { amountText } from '@/core/currency'
import { customerTexts } from '@/core/customerTexts'
import { groupingName, groupings } from '@/core/grouping'
import { type OwnField, readOwn } from '@/core/ownFields'
import type { Customer } from '@/store/customers'
import { Choice, TextArea, TextField } from '@/ui/Field'
import { OwnInputs } from '@/ui/OwnInputs'
import { SavedForm } from '@/ui/SavedForm'

const besideChoices = companionLists().map((list): [string, string] => [
	list,
	list.toUpperCase().replaceAll(',', ' and '),
])

/** A customer's particulars; issued documents keep the ones they were issued with. */
export function CustomerForm({
	customer,
	home,
	ownFields: own,
	lockFields,
	hasPassword,
}: {
	customer: Customer | null
	home: string
	ownFields: OwnField[]
	/** Fields that could open their PDFs. */
	lockFields: { key: string; name: string }[]
	hasPassword: boolean
}) {
	const limit = customer?.credit_limit == null ? '' : amountText(BigInt(customer.credit_limit), customer.currency)
	return (
		<div className="max-w-3xl px-5 py-4">
			<SavedForm
				save={setCustomer}
				label={customer ? 'Save the customer' : 'Add the customer'}
				saved="Saved. Documents from here on carry it; issued ones stay as they are."
				resets={!customer}
			>
				<div className="grid grid-cols-2 gap-4">
					<TextField
						label="Customer number"
						name="number"
						defaultValue={customer?.number}
						readOnly={customer !== null}
						required
						className="figures"
					/>
					<TextField label="Name" name="name" defaultValue={customer?.name} required />
					<TextArea label="Address, a line each" name="address" rows={5} defaultValue={customer?.address} />
					<div className="space-y-4">
						<TextField label="Country" name="country" defaultValue={customer?.country} />
						<TextField
							label="Email for invoices"
							name="email"
							defaultValue={customer?.email}
							help="Empty: invoices are listed to print."
						/>
					</div>
					<TextArea
						label="Goods go to, a line each"
						name="delivery"
						rows={3}
						defaultValue={customer?.delivery}
						help="Empty: to the address above, or where an order says"
					/>
					{customerTexts.map(({ key, name }) => (
						<TextField key={key} label={name} name={key} defaultValue={customer?.[key]} />
					))}
					<TextField
						label="Terms"
						name="terms"
						defaultValue={customer?.terms ?? '30 days'}
						help="30 days; 30 days from end of month; day 15 of next month; on receipt"
					/>
					<TextField
						label="Standing discount, percent"
						name="discount"
						defaultValue={customer?.discount ?? '0'}
						className="figures"
						help="Taken on every invoice to them; 0: none"
					/>
					<TextField label="Currency" name="currency" defaultValue={customer?.currency ?? home} className="figures" />
					<TextField
						label="Figures and dates as in"
						name="locale"
						defaultValue={customer?.locale ?? 'en-GB'}
						help="A language and country, such as en-GB or nb-NO"
					/>
					<Choice
						label="Tax treatment"
						name="tax"
						defaultValue={customer?.tax}
						options={[
							['standard', 'Standard'],
							['exempt', 'Exempt'],
							['reverse-charge', 'Reverse charge'],
						]}
					/>
					<TextField label="Tax number" name="tax_number" defaultValue={customer?.tax_number} />
					<Choice
						label="Invoices"
						name="grouping"
						defaultValue={customer?.grouping}
						options={groupings.map((grouping) => [grouping, groupingName[grouping]])}
					/>
					<TextField
						label="Credit limit"
						name="credit_limit"
						defaultValue={limit}
						className="figures"
						help="Empty: none"
					/>
				</div>
				<div className="grid grid-cols-2 gap-4">
					<TextField
						label="On hold, because"
						name="hold"
						defaultValue={customer?.hold}
						help="While a reason stands here, their invoices are stopped"
					/>
					<label className="mt-7 flex items-center gap-2">
						<input
							type="checkbox"
							name="wants_order"
							defaultChecked={customer?.wants_order === 1}
							className="size-4 accent-plum"
						/>
						Wants a purchase order on every invoice
					</label>
					<TextField
						label="Email for statements"
						name="statement_email"
						defaultValue={customer?.statement_email}
						help="Empty: where invoices go"
					/>
					<TextField
						label="Copies to"
						name="cc"
						defaultValue={customer?.cc}
						help="Seen by all who get the message; with commas between"
					/>
					<label className="mt-7 flex items-center gap-2">
						<input
							type="checkbox"
							name="statements"
							defaultChecked={customer?.statements !== 0}
							className="size-4 accent-plum"
						/>
						Gets statements
					</label>
				</div>
				<div className="grid grid-cols-3 gap-4">
					<Choice
						label="Beside the PDF"
						name="beside"
						defaultValue={customer?.beside}
						options={[['', 'as the firm has it'], ['none', 'nothing'], ...besideChoices]}
					/>
					<Choice
						label="The PDF that is sent opens with"
						name="lock"
						defaultValue={customer?.lock}
						options={[
							['', 'no password'],
							['own', 'a password of their own'],
							...lockFields.map(({ key, name }): [string, string] => [key, `their ${name.toLowerCase()}`]),
						]}
						help="AES-256; the PDF on file stays open, and what goes beside it is filed alone"
					/>
					<TextField
						label="Their own password"
						name="password"
						type="password"
						autoComplete="new-password"
						help={hasPassword ? 'One is kept, sealed; leave empty to keep it' : 'None is kept'}
					/>
				</div>
				{own.some(({ type }) => type !== 'picture') && (
					<div className="grid grid-cols-2 gap-4">
						<OwnInputs fields={own} values={readOwn(customer?.own ?? '{}')} />
					</div>
				)}
				<TextArea label="Note" name="note" rows={2} defaultValue={customer?.note} />
			</SavedForm>
		</div>
	)
}

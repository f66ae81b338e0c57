'use client'
import { makeMissing } from '@/app/acts/bringIn'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Choice, TextArea, TextField } from '@/ui/Field'
import { SavedForm } from '@/ui/SavedForm'

export type Missing = { what: 'customer' | 'item' | 'tax code'; value: string }

/** Makes what the file names and the books do not have; the file is looked at again at once. */
export function MakeMissing({
	file,
	missing,
	home,
	onClose,
}: {
	file: number
	missing: Missing | null
	home: string
	onClose: () => void
}) {
	const what = missing?.what ?? 'customer'
	return (
		<Ask open={missing !== null} onClose={onClose} title={`Make ${what} ${missing?.value ?? ''}`}>
			<SavedForm
				key={`${what} ${missing?.value}`}
				label={`Make the ${what}`}
				saved="Made"
				save={async (form) => {
					const outcome = await answered(makeMissing(form))
					if (outcome.ok) onClose()
					return outcome
				}}
			>
				<input type="hidden" name="file" value={file} />
				<input type="hidden" name="what" value={what} />
				{what === 'customer' && (
					<>
						<input type="hidden" name="number" value={missing?.value ?? ''} />
						<TextField label="Name" name="name" required />
						<TextArea label="Address" name="address" rows={3} />
						<div className="grid grid-cols-2 gap-4">
							<TextField label="Country" name="country" />
							<TextField label="Email" name="email" />
							<TextField label="Currency" name="currency" defaultValue={home} />
							<TextField label="Terms" name="terms" defaultValue="30 days" />
							<Choice
								label="Tax treatment"
								name="tax"
								options={[
									['standard', 'standard'],
									['exempt', 'exempt'],
									['reverse-charge', 'reverse charge'],
								]}
							/>
							<TextField label="Tax number" name="tax_number" />
						</div>
					</>
				)}
				{what === 'item' && (
					<>
						<input type="hidden" name="code" value={missing?.value ?? ''} />
						<TextField label="Description" name="description" required />
						<div className="grid grid-cols-2 gap-4">
							<TextField label="Unit" name="unit" />
							<TextField label="Unit price" name="unit_price" className="figures" required />
							<TextField label="Currency" name="currency" defaultValue={home} />
							<TextField label="Tax code" name="tax_code" required />
						</div>
					</>
				)}
				{what === 'tax code' && (
					<>
						<input type="hidden" name="code" value={missing?.value ?? ''} />
						<TextField label="Name" name="name" required help="As it stands on invoices, such as VAT standard." />
						<TextField label="Rate %" name="rate" className="figures" required />
					</>
				)}
			</SavedForm>
		</Ask>
	)
}

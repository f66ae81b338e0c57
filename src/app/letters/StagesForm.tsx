'use client'
import { setLateTerms, setStages } from '@/app/acts/firm'
import { amountText } from '@/core/currency'
import type { LateTerms } from '@/core/lateCharge'
import { Choice, TextField } from '@/ui/Field'
import { SavedForm } from '@/ui/SavedForm'

const names = ['Friendly', 'Firm', 'Final']

/** From how many days on each past-due letter goes, and how often at most. */
export function StagesForm({ stageDays, letterDays }: { stageDays: number[]; letterDays: number }) {
	return (
		<div className="max-w-3xl px-5 py-4">
			<SavedForm save={setStages} label="Save the stages" saved="Saved. Statements gathered from here on go by them.">
				<div className="grid grid-cols-4 gap-4">
					{names.map((name, place) => (
						<TextField
							key={name}
							label={`${name} from day`}
							name={`stage${place}`}
							type="number"
							min={1}
							defaultValue={stageDays[place]}
							className="figures"
							help="Past due, of the oldest item"
						/>
					))}
					<TextField
						label="Days between two"
						name="letterDays"
						type="number"
						min={1}
						defaultValue={letterDays}
						className="figures"
						help="To one customer, at least"
					/>
				</div>
			</SavedForm>
		</div>
	)
}

/** What is charged on what is past due, when a run of statements is asked to propose it. */
export function LateForm({ terms, home }: { terms: LateTerms; home: string }) {
	return (
		<div className="max-w-3xl px-5 py-4">
			<SavedForm
				save={setLateTerms}
				label="Save the late charges"
				saved="Saved. Statements propose them when they are asked to."
			>
				<div className="grid grid-cols-4 gap-4">
					<TextField
						label="Percent"
						name="percent"
						defaultValue={terms.percent}
						className="figures"
						help="Empty: no late charges"
					/>
					<Choice
						label="for each"
						name="per"
						defaultValue={terms.per}
						options={[
							['year', 'year'],
							['month', 'month'],
						]}
					/>
					<TextField
						label="Days of grace"
						name="grace"
						type="number"
						min={0}
						defaultValue={terms.grace}
						className="figures"
						help="After the due date"
					/>
					<TextField
						label={`At least, ${home}`}
						name="minimum"
						defaultValue={amountText(BigInt(terms.minimum), home)}
						className="figures"
					/>
				</div>
			</SavedForm>
		</div>
	)
}

'use client'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import type { AccountItem } from '@/runs/receivables/account'
import { mostOffered } from './offered'

/** Open debits to choose from. */
export function DebitChoice({ debits, currency }: { debits: AccountItem[]; currency: string }) {
	const offered = debits.slice(0, mostOffered)
	return (
		<fieldset className="scrolls -mx-1 max-h-56 p-1">
			<legend className="mb-1 text-sm">
				<span className="font-semibold">To these items</span>, in their order; none need be chosen
				{debits.length > offered.length && `. These are the ${offered.length} oldest due; name any other by its number`}
			</legend>
			{offered.map(({ id, number, due_day, openNow, disputed }) => (
				<label
					key={id}
					className="grid grid-cols-[auto_minmax(0,1fr)_160px_120px] items-center gap-2.5 border-b border-rule-soft py-1"
				>
					<input type="checkbox" name={`item${id}`} className="size-4 accent-plum" />
					<span className="figures truncate">{number}</span>
					<span className="text-mute">{disputed ? 'in dispute' : `due ${dayText(due_day)}`}</span>
					<span className="figures text-right">{formatMinor(openNow, currency)}</span>
				</label>
			))}
		</fieldset>
	)
}

/** The items that were chosen in a form. */
export const chosenOf = (form: FormData, debits: AccountItem[]): number[] =>
	debits.filter(({ id }) => form.get(`item${id}`) === 'on').map(({ id }) => id)

import type { BillContent } from '../document'
import type { Grouping } from '../grouping'
import type { CheckSettings } from './settings'

/** What a check says of a document: where, what is wrong, and the remedy. `brief` is for the list. */
export type Finding = { code: string; level: 'stop' | 'look'; brief: string; text: string; order?: string }

/** Everything a check may look at; all of it data. */
export type Checked = CheckSettings & {
	content: BillContent
	customer: {
		email: string
		currency: string
		creditLimit: number | null
		hold: string
		wantsOrder: boolean
		taxNumber: string
		/** Why their PDF cannot be locked, where they want it so; empty for nothing. */
		lockFault: string
	}
	/** What the firm says of itself. */
	firm: { name: string; address: string; country: string; taxNumber: string }
	/** Kinds of document that have a number register. */
	registers: ReadonlySet<string>
	/** The firm's items by code. */
	items: ReadonlyMap<string, { unit_price: string; price_per: string; currency: string }>
	/** Minor units in the document's currency. */
	net: bigint
	total: bigint
	/** Nets of the customer's latest invoices in this currency, minor units, the newest first. */
	usualNets: readonly number[]
	workDate: string
	homeCurrency: string
	/** Orders whose content was billed before, and on what number. */
	billedBefore: { order: string; otherOrder: string; number: string }[]
	/** Orders whose customer and content are the same as another's, of this run or of the open run that is named. */
	twins: { order: string; other: string; run: number | null }[]
	/** Where the customer gets orders grouped otherwise by now: how, and their orders on other drafts of the run. */
	regrouped: { grouping: Grouping; others: { number: string; purchaseOrder: string }[] } | null
	/** Discounts that the document's orders name. */
	discountsNamed: { order: string; label: string }[]
	/** Minor units in the document's currency: what else of this run goes to the customer, and what they owe already. */
	alsoBilled: bigint
	owed: bigint
	/** Characters of a text that no typeface of papers has. */
	unprintable: (text: string) => string[]
	/** Every text on it. */
	texts: readonly string[]
	/** Day of the latest issued document of its kind; null for none. */
	latestDay: string | null
	/** Whether a credit note no longer takes what is left of its invoice. */
	restChanged: boolean
	/** Why what a paper was made from no longer counts; empty where it does, and for invoices. */
	recordGone: string
	/** Whether its prices are those that the firm sells at. */
	sells: boolean
}

import type { DocumentContent } from '../document'
import { addressIncomplete } from './addressIncomplete'
import { alreadyBilled } from './alreadyBilled'
import { currencyNotTheCustomers } from './currencyNotTheCustomers'
import { customerOnHold } from './customerOnHold'
import { dateInFuture } from './dateInFuture'
import { discountNotTaken } from './discountNotTaken'
import { emailMissing } from './emailMissing'
import { enteredTwice } from './enteredTwice'
import { exemptButTaxed } from './exemptButTaxed'
import { farFromUsual } from './farFromUsual'
import { inClosedMonth } from './inClosedMonth'
import { largeTotal } from './largeTotal'
import { notAboveZero } from './notAboveZero'
import { overCreditLimit } from './overCreditLimit'
import { priceFarFromItem } from './priceFarFromItem'
import { priceMissing } from './priceMissing'
import { purchaseOrderMissing } from './purchaseOrderMissing'
import { unknownItem } from './unknownItem'
import { unknownTaxCode } from './unknownTaxCode'
import { unprintable } from './unprintable'

/** What a check says of a document: where, what is wrong, and the remedy. `brief` is for the list. */
export type Finding = { code: string; level: 'stop' | 'look'; brief: string; text: string; order?: string }

/** Everything a check may look at; all of it data. */
export type Checked = {
	content: DocumentContent
	customer: { email: string; currency: string; creditLimit: number | null; hold: string; wantsOrder: boolean }
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
	/** Orders of this run whose customer and content are the same as another's. */
	twins: { order: string; other: string }[]
	/** Discounts that the document's orders name. */
	discountsNamed: { order: string; label: string }[]
	/** Minor units in the document's currency: what else of this run goes to the customer, and what they owe already. */
	alsoBilled: bigint
	owed: bigint
	/** Characters of a text that the layout's fonts do not have. */
	unprintable: (text: string) => string[]
	lookAbove: number
	priceShare: number
	/** Last day of the closed books; empty for none. */
	closedTo: string
	usualTimes: number
	/** Percent of the usual below which an invoice is worth a look. */
	usualPart: number
}

/** One check a file; each says nothing, or what it found. */
const checks: ((checked: Checked) => Finding[])[] = [
	priceMissing,
	unknownTaxCode,
	customerOnHold,
	inClosedMonth,
	purchaseOrderMissing,
	unprintable,
	alreadyBilled,
	enteredTwice,
	currencyNotTheCustomers,
	exemptButTaxed,
	unknownItem,
	priceFarFromItem,
	discountNotTaken,
	notAboveZero,
	dateInFuture,
	overCreditLimit,
	farFromUsual,
	largeTotal,
	addressIncomplete,
	emailMissing,
]

/** All findings on a document, stops before looks. */
export function check(checked: Checked): Finding[] {
	const found = checks.flatMap((one) => one(checked))
	return [...found.filter(({ level }) => level === 'stop'), ...found.filter(({ level }) => level === 'look')]
}

import { addressIncomplete } from './addressIncomplete'
import { alreadyBilled } from './alreadyBilled'
import { creditOutdated } from './creditOutdated'
import { currencyNotTheCustomers } from './currencyNotTheCustomers'
import { customerOnHold } from './customerOnHold'
import { dateInFuture } from './dateInFuture'
import { dayOutOfOrder } from './dayOutOfOrder'
import { discountNotTaken } from './discountNotTaken'
import { dueInPast } from './dueInPast'
import { emailMissing } from './emailMissing'
import { enteredTwice } from './enteredTwice'
import { exemptButTaxed } from './exemptButTaxed'
import { farFromUsual } from './farFromUsual'
import type { Checked, Finding } from './finding'
import { firmIncomplete } from './firmIncomplete'
import { groupedOtherwise } from './groupedOtherwise'
import { homeTaxMissing } from './homeTaxMissing'
import { inClosedMonth } from './inClosedMonth'
import { largeTotal } from './largeTotal'
import { lastDayPast } from './lastDayPast'
import { lockMissing } from './lockMissing'
import { notAboveZero } from './notAboveZero'
import { overCreditLimit } from './overCreditLimit'
import { priceFarFromItem } from './priceFarFromItem'
import { priceMissing } from './priceMissing'
import { purchaseOrderMissing } from './purchaseOrderMissing'
import { recordGone } from './recordGone'
import { taxNumberMissing } from './taxNumberMissing'
import { unknownItem } from './unknownItem'
import { unknownTaxCode } from './unknownTaxCode'
import { unprintable } from './unprintable'

export type { Checked, Finding } from './finding'

/** One check a file; each says nothing, or what it found. */
const checks: ((checked: Checked) => Finding[])[] = [
	priceMissing,
	unknownTaxCode,
	customerOnHold,
	inClosedMonth,
	purchaseOrderMissing,
	unprintable,
	creditOutdated,
	firmIncomplete,
	taxNumberMissing,
	homeTaxMissing,
	alreadyBilled,
	enteredTwice,
	groupedOtherwise,
	currencyNotTheCustomers,
	exemptButTaxed,
	unknownItem,
	priceFarFromItem,
	discountNotTaken,
	notAboveZero,
	dateInFuture,
	dayOutOfOrder,
	dueInPast,
	overCreditLimit,
	farFromUsual,
	largeTotal,
	addressIncomplete,
	emailMissing,
	lockMissing,
]

/** Of papers of a kind that the firm made: nothing is billed by them, and the law asks nothing of them. */
const paperChecks: typeof checks = [
	recordGone,
	unprintable,
	lastDayPast,
	dateInFuture,
	dayOutOfOrder,
	addressIncomplete,
	emailMissing,
	lockMissing,
]
const pricedChecks: typeof checks = [
	priceMissing,
	unknownTaxCode,
	currencyNotTheCustomers,
	exemptButTaxed,
	unknownItem,
	discountNotTaken,
	largeTotal,
]

const checksFor = ({ content: { kind, paper }, sells }: Checked): typeof checks =>
	paper === undefined
		? checks
		: [
				...paperChecks,
				...(kind === 'priced' ? pricedChecks : []),
				...(kind === 'priced' && sells ? [priceFarFromItem] : []),
			]

/** All findings on a document, stops before looks. */
export function check(checked: Checked): Finding[] {
	const found = checksFor(checked).flatMap((one) => one(checked))
	return [...found.filter(({ level }) => level === 'stop'), ...found.filter(({ level }) => level === 'look')]
}

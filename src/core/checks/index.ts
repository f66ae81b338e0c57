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
import { homeTaxMissing } from './homeTaxMissing'
import { inClosedMonth } from './inClosedMonth'
import { largeTotal } from './largeTotal'
import { lockMissing } from './lockMissing'
import { notAboveZero } from './notAboveZero'
import { overCreditLimit } from './overCreditLimit'
import { priceFarFromItem } from './priceFarFromItem'
import { priceMissing } from './priceMissing'
import { purchaseOrderMissing } from './purchaseOrderMissing'
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

/** All findings on a document, stops before looks. */
export function check(checked: Checked): Finding[] {
	const found = checks.flatMap((one) => one(checked))
	return [...found.filter(({ level }) => level === 'stop'), ...found.filter(({ level }) => level === 'look')]
}

import type { Day } from '@/core/calendar'
import type { IntakeItem, OpenItemsResult } from '@/intake/openItems'
import type { Reading } from '@/intake/reading'
import type { RowThen } from '@/store/ledgerThen'
import type { Likely, Pair, PairAnswer } from './likely'

/** A payment entered here that may be the same money as what the extract settles. */
export type Twin = {
	payment: RowThen
	/** What of it is unapplied, or was applied after the file's day to what the file settles (minor units). */
	free: number
	/** What the file settles of this account (minor units). */
	settles: number
}
const twinAnswers = ['same', 'other'] as const
export type TwinAnswer = (typeof twinAnswers)[number]

/** What an extract does to a currency's part of the ledger, signed minor units as of its day: what it had, and what each of these adds. */
export type Currency = {
	currency: string
	had: number
	added: number
	changed: number
	gone: number
	/** What is here and not in the file: it stays, or is taken as settled. */
	here: number
	hereSettled: number
	/** Of what is settled, what a payment entered here is the same money as. */
	same: number
	will: number
	/** What the rows of the file come to, how many there are, and what its own control total says. */
	file: number
	items: number
	control: number | null
	/** What is left as it is: its row was refused or left out, it was paid here and not there yet, it is void here, or its money stands to their credit. */
	left: number
	/** What is settled in all, unsigned, and what was open, unsigned. */
	settles: number
	open: number
}

/** What the extract settles of an item as of its day, and with which money (minor units). */
export type Settlement = {
	before: RowThen
	amount: number
	/** Payments entered here that are the same money: what they paid later stays, and what of them is applied to it. */
	parts: { payment: RowThen; stays: number; applied: number }[]
	/** What is settled alone. */
	rest: number
}

/** What an extract says beside what the ledger holds, before it is accepted. */
export type ExtractReview = OpenItemsResult & {
	asOf: Day | ''
	/** Day of the extract before. */
	previous: Day | null
	added: IntakeItem[]
	/** Otherwise in the file: what is open of it, its amount, its days, its kind. */
	changed: Pair[]
	/** What is likely one that is here, written or meant otherwise; what a person answered of it. */
	likely: Likely[]
	/** Of these, what went over to another customer, side or currency: another item stands for it. */
	replaced: Likely[]
	/** What is void here and stays so, whatever the file has. */
	stillVoid: Likely[]
	/** As many stand in both just the same, or are paid here and not there yet. */
	same: Pair[]
	/** In an extract before, open here, and no longer in this one. */
	gone: RowThen[]
	/** Entered here and open, and in no extract yet. */
	ours: RowThen[]
	/** Left as they are, since what the file says of them was not taken. */
	untouchedItems: RowThen[]
	twins: Twin[]
	settlements: Settlement[]
	currencies: Currency[]
	/** Why it is accepted with a reason alone: it settles much, or its control total is out. */
	doubts: string[]
}

export type Given = {
	ours: Reading['ours']
	twins: Record<string, TwinAnswer>
	pairs: Record<string, PairAnswer>
}

'use client'
import { withdrawPaperRecord } from '@/app/acts/papers'
import { ReasonAsk } from '@/app/paperParts/ReasonAsk'

/** Withdraws what was written for a kind of paper, with why. */
export const Withdraw = ({ id, number }: { id: number; number: string }) => (
	<ReasonAsk
		button="Withdraw"
		title={`Withdraw ${number}?`}
		about="No paper is made of it any more, and what was issued of it can no longer be accepted. Open drafts of it are stopped."
		yes={`Withdraw ${number}`}
		act={(reason) => withdrawPaperRecord(id, reason)}
	/>
)

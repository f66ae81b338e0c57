import { choiceOf } from '@/runs/statements/choice'
import { agedTotals } from '@/store/accounts'
import type { Books } from '@/store/books'
import { setSourceTotal, sourceTotals } from '@/store/runs'

/**
 * What a run's drafts are tied against, minor units by currency: what its source reports, or, of statements of all accounts, what the ledger
 * has as of their day, measured now, until it is kept with the numbers.
 */
export function totalsToTie(books: Books, runId: number): Map<string, number> {
	const kept = sourceTotals(books, runId)
	const choice = kept.size === 0 ? choiceOf(books, runId) : null
	if (!choice || choice.customers.length > 0) return kept
	return new Map(agedTotals(books, choice.asOf).map(({ currency, balance }) => [currency, balance]))
}

/** Keeps what the drafts of a run of statements were tied against when they were numbered: what issuing them enters is not of it. */
export function keepTotals(books: Books, runId: number): void {
	if (sourceTotals(books, runId).size > 0) return
	for (const [currency, total] of totalsToTie(books, runId)) setSourceTotal(books, runId, currency, BigInt(total))
}

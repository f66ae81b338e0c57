import fc from 'fast-check'
import { expect, test } from 'vitest'
import { type Chase, demandOf, whyNotChased } from './chase'
import { nextStage, type Stage, type Written } from './stages'

const stages: Stage[] = [
	{ name: 'Friendly', days: 1, least: 0, read: false },
	{ name: 'Firm', days: 14, least: 0, read: false },
	{ name: 'Final', days: 10, least: 5000, read: true },
]
const next = (written: Written[], more: { oldest?: number; asked?: bigint; asOf?: string; isHome?: boolean } = {}) =>
	nextStage(stages, written, {
		oldest: 400,
		asked: 10_000n,
		asOf: '2026-10-31',
		currency: 'GBP',
		isHome: true,
		...more,
	})

test('the first letter is the first, whatever the age of the item; each next goes after the one before went and its days passed', () => {
	expect(next([])).toEqual({ stage: 1, why: '' })
	const first = { stage: 1, day: '2026-10-18' }
	expect(next([first]).why).toBe('written to as of 18 Oct 2026; not again before 1 Nov 2026')
	expect(next([first], { asOf: '2026-11-01' })).toEqual({ stage: 2, why: '' })
	const second = { stage: 2, day: '2026-11-01' }
	expect(next([second, first], { asOf: '2026-11-11' })).toEqual({ stage: 3, why: '' })
	expect(next([second, first, { stage: 3, day: '2026-11-11' }], { asOf: '2027-11-11' }).why).toContain(
		'the last of the letters went',
	)
})

test('none goes where nothing is late enough, nothing is asked for, or less than the stage is worth', () => {
	expect(next([], { oldest: 0 })).toEqual({ stage: 0, why: '' })
	expect(next([], { asked: 0n }).stage).toBe(0)
	const second = [{ stage: 2, day: '2026-10-01' }]
	expect(next(second, { asked: 4999n })).toEqual({ stage: 0, why: 'what is past due is below the least for “Final”' })
	expect(next(second, { asked: 4999n, isHome: false }).stage).toBe(3)
	expect(nextStage([], [], { oldest: 9, asked: 1n, asOf: '2026-10-31', currency: 'GBP', isHome: true }).stage).toBe(0)
})

test('a letter goes on its first day, and for exactly the least, not before and not below', () => {
	const from5: Stage[] = [{ name: 'Late', days: 5, least: 2500, read: false }]
	const first = (oldest: number, asked: bigint) =>
		nextStage(from5, [], { oldest, asked, asOf: '2026-10-31', currency: 'GBP', isHome: true }).stage
	expect([first(4, 2500n), first(5, 2500n), first(5, 2499n)]).toEqual([0, 1, 0])
	// Of two letters of a stage the later one counts.
	const twice = [1, 20].map((day) => ({ stage: 1, day: `2026-10-${String(day).padStart(2, '0')}` }))
	expect([next(twice, { asOf: '2026-11-02' }).stage, next(twice, { asOf: '2026-11-03' }).stage]).toEqual([0, 2])
})

const chase = (more: Partial<Chase> = {}): Chase => ({ peaceUntil: '', peaceReason: '', promised: [], ...more })

test('asked for is what is past due less what stands to their credit and what is promised, never below nothing', () => {
	const asOf = '2026-10-31'
	const of = (pastDue: bigint, unappliedCredits: bigint, promised: Chase['promised'] = []) =>
		demandOf({ pastDue, unappliedCredits }, { promised }, asOf)
	expect(of(100n, 150n)).toEqual({ asked: 0n, promised: 0n, until: '' })
	expect(of(100n, 30n, [{ day: '2026-11-05', left: 50 }])).toEqual({ asked: 20n, promised: 50n, until: '2026-11-05' })
	// A promise of 0.01 holds back a penny, and one whose day has passed nothing.
	expect(of(10_000n, 0n, [{ day: '2026-12-05', left: 1 }]).asked).toBe(9999n)
	expect(of(10_000n, 0n, [{ day: '2026-10-30', left: 9000 }]).asked).toBe(10_000n)
	expect(whyNotChased(chase(), of(100n, 150n), asOf)).toContain('to their credit')
	expect(whyNotChased(chase(), of(100n, 0n, [{ day: asOf, left: 100 }]), asOf)).toBe(
		'a payment is promised for 31 Oct 2026',
	)
	expect(whyNotChased(chase({ peaceUntil: asOf, peaceReason: 'flood' }), of(1n, 0n), asOf)).toBe(
		'peace until 31 Oct 2026: flood',
	)
	fc.assert(
		fc.property(fc.bigInt(0n, 999n), fc.bigInt(0n, 999n), fc.nat(999), (pastDue, credits, left) => {
			const { asked, promised } = of(pastDue, credits, [{ day: asOf, left }])
			expect(asked >= 0n && asked + promised <= pastDue).toBe(true)
			expect(asked + promised).toBe(pastDue > credits ? pastDue - credits : 0n)
		}),
	)
})

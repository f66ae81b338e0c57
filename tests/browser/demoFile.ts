import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parse } from 'csv-parse/sync'
import { z } from 'zod'
import { root } from './tally'

const rows = z.array(z.record(z.string(), z.string()))
export const demoFile = (...parts: string[]) => join(root, 'demo', ...parts)

/** The demo firm's October orders, each as its rows, as a clerk would read them in a sheet. */
export function octoberOrders(): Record<string, string>[][] {
	const orders = new Map<string, Record<string, string>[]>()
	for (const row of rows.parse(parse(readFileSync(demoFile('orders-2026-10.csv')), { columns: true }))) {
		const number = row['Order No'] ?? ''
		orders.set(number, [...(orders.get(number) ?? []), row])
	}
	return [...orders.values()]
}

const rates: Record<string, number> = { STD: 20, RED: 5, ZERO: 0 }

/**
 * The total of an order whose rows have no discount and no freight, reckoned here in whole pennies and apart from the product:
 * each line rounded, each tax code's sum rounded.
 */
export function plainTotal(lines: Record<string, string>[]): number {
	const sums: Record<string, number> = {}
	for (const line of lines) {
		const pennies = Math.round(Number(line['Unit price']?.replace(/,/g, '')) * 100)
		const quarters = Math.round(Number(line.Qty) * 4)
		const net = Math.round((pennies * quarters) / (4 * Number(line.Per)))
		const code = line['VAT code'] ?? ''
		sums[code] = (sums[code] ?? 0) + net
	}
	return Object.entries(sums).reduce(
		(total, [code, net]) => total + net + Math.round((net * (rates[code] ?? 0)) / 100),
		0,
	)
}

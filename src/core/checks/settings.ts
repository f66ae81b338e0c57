import { z } from 'zod'
import { isDay } from '../calendar'
import { typedAmount } from '../currency'
import { attempt, type Result, refuse } from '../refusal'

// What a firm sets for its checks, each declared once: its value, and how it is asked for. The store keeps it, the form asks for it,
// the act reads it and the facts of a check have it, all from here.

/** The value of each, with the usual one. */
export const checkShape = {
	/** Above this total, minor units of the home currency, a document is worth a look; 0 for never. */
	lookAbove: z.number().int().min(0).default(1_000_000),
	/** Times a customer's usual invoice that are worth a look. */
	usualTimes: z.number().min(1).default(4),
	/** Percent of a customer's usual invoice below which one is worth a look; 0 for never. */
	usualPart: z.number().min(0).max(100).default(10),
	/** Percent by which a line's price may differ from its item's without a look; 0 for never looking. */
	priceShare: z.number().min(0).max(1000).default(25),
	/** Last day of the books that are closed; nothing may be dated on or before it. Empty: none. */
	closedTo: z.string().default(''),
	/** Whether days and numbers of a kind must rise together. */
	ascending: z.boolean().default(false),
}
export type CheckSettings = z.infer<z.ZodObject<typeof checkShape>>
export type CheckSetting = keyof CheckSettings

/** How a setting is asked for: an amount of the home currency, a figure within bounds, a day or none, a yes or no. */
export type AskedFor =
	| { as: 'amount'; label: string; help: string }
	| { as: 'figure'; label: string; help: string; least: number; most?: number; step?: string; refusal: string }
	| { as: 'day'; label: string; help: string; refusal: string }
	| { as: 'switch'; label: string }

/** In the order of the form. */
export const checkFields: Readonly<Record<CheckSetting, AskedFor>> = {
	lookAbove: { as: 'amount', label: 'Total above', help: 'Empty: never' },
	usualTimes: {
		as: 'figure',
		label: 'Times the usual',
		help: 'Of the middle of their last twelve',
		least: 1,
		step: '0.1',
		refusal: 'Times the usual: 1 or more.',
	},
	usualPart: {
		as: 'figure',
		label: 'Below, percent of it',
		help: '0: never',
		least: 0,
		most: 100,
		refusal: 'Percent of the usual: 0 to 100.',
	},
	priceShare: {
		as: 'figure',
		label: 'Price off by, percent',
		help: 'From the item’s; 0: never',
		least: 0,
		most: 1000,
		refusal: 'A share is a percent of 0 or more.',
	},
	closedTo: {
		as: 'day',
		label: 'Books closed to',
		help: 'Nothing may be dated up to then',
		refusal: 'Choose the last closed day, or none.',
	},
	ascending: {
		as: 'switch',
		label: 'Days and numbers of a kind rise together; else a day out of sequence is only looked at',
	},
}
export const checkSettings = Object.keys(checkFields).filter((name): name is CheckSetting => name in checkFields)

/** As they are until the firm sets them otherwise. */
export const usualCheckSettings: CheckSettings = z.object(checkShape).parse({})

/** The settings of checks among others. */
export const checkSettingsOf = (settings: CheckSettings): CheckSettings => z.object(checkShape).parse(settings)

function typed(key: CheckSetting, given: unknown, home: string): number | string | boolean {
	const asked = checkFields[key]
	if (asked.as === 'switch') return given === 'on'
	if (asked.as === 'amount') {
		const amount = typedAmount(given, home, key)
		if (!amount.ok) return refuse(key, amount.refusal.message)
		return amount.value < 0 ? refuse(key, `${asked.label}: give an amount of 0 or more.`) : amount.value
	}
	const text = String(given ?? '').trim()
	if (asked.as === 'day') return text === '' || isDay(text) ? text : refuse(key, asked.refusal)
	const figure = text === '' ? Number.NaN : Number(text)
	return figure >= asked.least && figure <= (asked.most ?? Number.MAX_VALUE) ? figure : refuse(key, asked.refusal)
}

/**
 * The settings as they were typed in the form.
 * @param fields by their keys
 * @param home the home currency, which amounts are in
 * @returns refused with the first that cannot be
 */
export const typedCheckSettings = (fields: Record<string, unknown>, home: string): Result<CheckSettings> =>
	attempt(() =>
		z.object(checkShape).parse(Object.fromEntries(checkSettings.map((key) => [key, typed(key, fields[key], home)]))),
	)

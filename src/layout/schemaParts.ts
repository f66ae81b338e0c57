import { z } from 'zod'
import { languages } from './languages'

// A layout as it is kept, edited and travels (docs/layouts.md has it on one page). Lengths are points, 72 to the inch.

// What pieces of a layout are declared with.

/** A length in points, between two bounds. */
export const points = (least: number, most: number) => z.number().min(least).max(most)
export const words = z.string().max(4000)
export const saidSchema = z.union([words, z.partialRecord(z.enum(languages), words)])

/** How a value is written, where that is not as its type and the customer's culture have it. */
export const formatSchema = z.strictObject({
	/** Decimals exactly; a price has at least its currency's without it. */
	decimals: z.number().int().min(0).max(6).optional(),
	/** Money with its sign (£1.00), with its code (GBP 1.00), or neither. */
	money: z.enum(['sign', 'code', 'none']).optional(),
	day: z.enum(['short', 'figures', 'iso', 'long', 'month']).optional(),
	/** Turned round: what is below zero is written above it. */
	turned: z.boolean().optional(),
	upper: z.boolean().optional(),
})
export type Format = z.infer<typeof formatSchema>

export const field = z.string().min(1).max(120)
/** A colour by its name in the palette. */
export const color = z.string().min(1).max(40)
export const style = {
	bold: z.boolean().optional(),
	italic: z.boolean().optional(),
	underline: z.boolean().optional(),
	size: points(4, 96).optional(),
	color: color.optional(),
	/** Set in the layout's second typeface. */
	display: z.boolean().optional(),
}
const inlineSchema = z.union([
	z.strictObject({ text: saidSchema, ...style }),
	z.strictObject({
		field,
		format: formatSchema.optional(),
		/** Written in its place when it is empty. */
		empty: saidSchema.optional(),
		/** Written around it, when it is not. */
		before: saidSchema.optional(),
		after: saidSchema.optional(),
		...style,
	}),
])
/** A run of text, or a field's value. */
export type Inline = z.infer<typeof inlineSchema>
export const inlines = z.array(inlineSchema).max(200)

const paragraphSchema = z.strictObject({
	align: z.enum(['left', 'center', 'right']).optional(),
	list: z.enum(['dots', 'numbers']).optional(),
	/** Space above it. */
	above: points(0, 200).optional(),
	runs: inlines,
})
export type Paragraph = z.infer<typeof paragraphSchema>
export const paragraphs = z.array(paragraphSchema).max(200)

const testSchema = z.strictObject({
	field,
	is: z.enum(['is', 'is not', 'above', 'below', 'empty', 'not empty', 'one of']),
	value: z.string().max(400).optional(),
	values: z.array(z.string().max(400)).max(200).optional(),
})
export const conditionSchema = z.union([
	z.strictObject({ all: z.array(testSchema).min(1).max(20) }),
	z.strictObject({ any: z.array(testSchema).min(1).max(20) }),
])
export type Test = z.infer<typeof testSchema>
export type Condition = z.infer<typeof conditionSchema>

export const base = {
	id: z.string().min(1).max(40),
	/** Shown only then. */
	when: conditionSchema.optional(),
	/** Space above it; none at the head of a page. */
	above: points(0, 400).optional(),
	/** Of what comes at the head or foot of pages: of which. */
	on: z.enum(['every', 'first', 'following', 'last']).optional(),
}
export const lettering = { size: points(4, 96).optional(), color: color.optional() }
export const align = z.enum(['left', 'center', 'right']).optional()

/** Of what a table lists a row each. */
export const lineSources = ['lines', 'orders', 'taxes', 'items', 'movements'] as const
export const families = ['source-sans', 'source-serif', 'libre-franklin', 'barlow'] as const
export type Family = (typeof families)[number]

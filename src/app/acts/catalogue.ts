'use server'
import { z } from 'zod'
import { typedCheckSettings } from '@/core/checks/settings'
import { plainAmount, typedAmount } from '@/core/currency'
import { percentOrNone } from '@/core/decimal'
import { readLeasts } from '@/core/leasts'
import { no } from '@/core/outcome'
import { askToLookAgain } from '@/runs/customers/changeCustomer'
import { ownOfForm } from '@/runs/firm/ownFields'
import {
	discountSchema,
	exchangeSchema,
	groundSchema,
	itemSchema,
	readItem,
	saveDiscount,
	saveExchangeRate,
	saveGround,
	saveItem,
	saveTaxRate,
	taxRateSchema,
} from '@/store/catalogue'
import { homeCurrency } from '@/store/company'
import { ownFieldsOf } from '@/store/ownFields'
import { changeSettings } from '@/store/settings'
import { formed } from './seam'

// What is set here reaches the drafts concerned by itself: the runner looks at them again.

export const setItem = formed(
	itemSchema,
	({ books, desk }, item) => {
		saveItem(books, desk, item)
		askToLookAgain(books, desk, `item ${item.code}`)
	},
	(fields, _form, { books }) => {
		const known = readItem(books, String(fields.code ?? '').trim())
		const own = ownOfForm(ownFieldsOf(books, 'item'), known?.own ?? '{}', fields, true)
		return own.ok ? { ...fields, own: own.own } : own
	},
)
export const setTaxRate = formed(taxRateSchema, ({ books, desk }, rate) => {
	saveTaxRate(books, desk, rate)
	askToLookAgain(books, desk, `tax code ${rate.code}`)
})
export const setExchangeRate = formed(exchangeSchema, ({ books, desk }, rate) => {
	saveExchangeRate(books, desk, rate)
	askToLookAgain(books, desk, `the worth of ${rate.currency}`)
})
export const setGround = formed(groundSchema, ({ books, desk }, ground) => {
	saveGround(books, desk, ground)
	askToLookAgain(books, desk, `the words of ${ground.code}`)
})
export const setDiscount = formed(
	discountSchema,
	({ books, desk }, discount) => {
		saveDiscount(books, desk, discount)
		askToLookAgain(books, desk, `discount ${discount.label}`)
	},
	(fields) => ({ ...fields, amount: plainAmount(fields.amount), for_all: fields.for_all === 'on' ? 1 : 0 }),
)

const freightSchema = z
	.object({
		amount: z.string().trim(),
		percent: percentOrNone('A percent is from 0 to 100, such as 5.'),
		freightTaxCode: z.string(),
	})
	.refine(({ amount, percent }) => amount === '' || percent === '', 'Give an amount or a percent, not both.')

export const setFreight = formed(
	freightSchema,
	({ books, desk }, { freightTaxCode, ...freight }) => {
		const amount = typedAmount(freight.amount, homeCurrency(books), 'amount')
		if (!amount.ok) return no(`Freight: ${amount.refusal.message}`)
		if (amount.value < 0) return no('Freight cannot be below zero.')
		changeSettings(books, desk, { freight, freightTaxCode })
	},
	(fields) => ({ ...fields, amount: plainAmount(fields.amount) }),
)

const otherSettings = z.object({
	rateBy: z.enum(['supply', 'document']),
	extractPercent: z.coerce.number().min(0).max(100, 'What an extract settles: 0 to 100 percent.'),
	extractAmount: z.string(),
})

export const setChecks = formed(
	otherSettings.loose(),
	({ books, desk }, { rateBy, extractPercent, extractAmount, ...fields }) => {
		const home = homeCurrency(books)
		const checks = typedCheckSettings(fields, home)
		if (!checks.ok) return no(checks.refusal.message)
		const most = readLeasts(String(extractAmount ?? ''), home)
		if (!most.ok) return no(`What an extract settles: ${most.refusal.message}`)
		const { least: amount, leasts: amounts } = most.value
		const extractLimits = { percent: extractPercent, amount, ...(amounts ? { amounts } : {}) }
		changeSettings(books, desk, { ...checks.value, rateBy, extractLimits })
		askToLookAgain(books, desk, 'what is looked at')
	},
)

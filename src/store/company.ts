import { createHash } from 'node:crypto'
import { z } from 'zod'
import { isMailbox } from '@/core/addresses'
import { currencyCode } from '@/core/currency'
import type { issuerSchema } from '@/core/document'
import { textLines } from '@/core/textLines'
import { languages } from '@/layout/languages'
import { type Books, inOneStep } from './books'
import { type Desk, record } from './events'

export const companySchema = z.object({
	name: z.string().trim().min(1, 'Give the firm a name; it stands at the head of every document.'),
	address: z.string().trim(),
	country: z.string().trim(),
	tax_number: z.string().trim(),
	email: z
		.string()
		.trim()
		.refine(
			(text) => text === '' || isMailbox(text),
			'The firm’s email is one address, such as post@yourfirm.example.',
		),
	phone: z.string().trim(),
	bank: z.string().trim(),
	currency: currencyCode,
	closing_words: z.string().trim(),
	/** Of papers, where a customer's own has no words. */
	language: z.enum(languages).default('en'),
})
export type CompanyFields = z.input<typeof companySchema>
export type Company = z.infer<typeof companySchema> & { logo_sha256: string | null }
type Image = { sha256: string; type: string; bytes: Buffer }

/** The firm, or null in empty books. */
export function readCompany({ sql }: Books): Company | null {
	return (
		sql<[], Company>(
			`SELECT name, address, country, tax_number, email, phone, bank, currency, closing_words, language, logo_sha256 FROM company WHERE id = 1`,
		).get() ?? null
	)
}

/** The firm's currency; GBP until it says which. */
/** The firm as its documents carry it. */
export const issuerOf = (company: Company): z.infer<typeof issuerSchema> => ({
	name: company.name,
	address: textLines(company.address),
	taxNumber: company.tax_number,
	email: company.email,
	phone: company.phone,
	bank: textLines(company.bank),
	closingWords: company.closing_words,
	logo: company.logo_sha256,
	country: company.country,
	...(company.language === 'en' ? {} : { language: company.language }),
})

/** The currency of the firm; GBP while there is no firm yet. */
export const homeCurrency = (books: Books): string => readCompany(books)?.currency ?? 'GBP'

/** Sets the firm's own particulars; issued documents keep the ones they were issued with. */
export function saveCompany(books: Books, desk: Desk, given: CompanyFields): void {
	const fields = { language: 'en' as const, ...given }
	inOneStep(books, () => {
		const before = readCompany(books)
		books
			.sql<[CompanyFields]>(
				`INSERT INTO company (id, name, address, country, tax_number, email, phone, bank, currency, closing_words, language)
				 VALUES (1, @name, @address, @country, @tax_number, @email, @phone, @bank, @currency, @closing_words, @language)
				 ON CONFLICT (id) DO UPDATE SET name = @name, address = @address, country = @country, tax_number = @tax_number,
				  email = @email, phone = @phone, bank = @bank, currency = @currency, closing_words = @closing_words, language = @language`,
			)
			.run(fields)
		record(books, desk, { subject: 'company', id: 1, act: 'changed the company', before, after: fields })
	})
}

/** Sets the logo (PNG, JPEG or SVG bytes), or takes it away with null. */
export function saveLogo(books: Books, desk: Desk, logo: { type: string; bytes: Buffer } | null): void {
	inOneStep(books, () => {
		const sha256 = logo && createHash('sha256').update(logo.bytes).digest('hex')
		if (logo && sha256) keepImage(books, { sha256, ...logo })
		books.sql<[string | null]>('UPDATE company SET logo_sha256 = ? WHERE id = 1').run(sha256)
		record(books, desk, { subject: 'company', id: 1, act: logo ? 'set the logo' : 'took the logo away' })
	})
}

/** Keeps a picture under its hash, for good. */
export const keepImage = ({ sql }: Books, { sha256, type, bytes }: Image): void => {
	sql<[string, string, Buffer]>('INSERT INTO image (sha256, type, bytes) VALUES (?, ?, ?) ON CONFLICT DO NOTHING').run(
		sha256,
		type,
		bytes,
	)
}

/** A picture by its hash. */
export function readImage({ sql }: Books, sha256: string): Image | null {
	return sql<[string], Image>('SELECT sha256, type, bytes FROM image WHERE sha256 = ?').get(sha256) ?? null
}

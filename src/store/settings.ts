import { z } from 'zod'
import { areMailboxes, isMailbox } from '@/core/addresses'
import { checkShape } from '@/core/checks/settings'
import { numberings } from '@/core/numbering'
import { stageSchema } from '@/core/stages'
import { leavingSchema } from '@/layout/leaving'
import { type Books, inOneStep } from './books'
import { type Desk, record } from './events'
import { keepMailPassword, mailPassword } from './secrets'

const usualMail = { lines: 4, perLine: 100, perMinute: 0, retry: { minutes: [1, 5, 30, 120, 360], hours: 24 } }

/** How mail leaves: to the practice server on this machine, or to the firm's own. */
export const mailSchema = z.object({
	mode: z.enum(['practice', 'real']),
	host: z.string().trim(),
	port: z.coerce.number().int().min(1).max(65_535),
	secure: z.boolean(),
	user: z.string().trim(),
	password: z.string(),
	sender: z
		.string()
		.trim()
		.refine(
			(text) => text === '' || isMailbox(text),
			'The sender is one email address, such as post@yourfirm.example.',
		),
	/** Where answers go, and who gets a copy of everything unseen; empty for none. */
	replyTo: z.string().trim().refine(areMailboxes, 'Answers go to an email address.').default(''),
	bcc: z.string().trim().refine(areMailboxes, 'Unseen copies go to email addresses with commas between.').default(''),
	/** Lines to the mail server at once; what it takes on each before it is opened anew, and a minute over all (0: any). */
	lines: z.coerce.number().int().min(1, 'At least one line.').max(16, 'At most 16 lines.').default(usualMail.lines),
	perLine: z.coerce.number().int().min(1, 'At least one message a line.').max(10_000).default(usualMail.perLine),
	perMinute: z.coerce.number().int().min(0).max(100_000).default(usualMail.perMinute),
	/** When what the server puts off is tried again. */
	retry: z
		.object({
			minutes: z
				.array(z.number().int('Minutes are whole.').min(1, 'At least a minute lies between two tries.').max(1440))
				.min(1, 'Say after how many minutes a message is tried again.')
				.max(12),
			hours: z.coerce.number().int().min(1, 'At least an hour.').max(240, 'At most ten days.'),
		})
		.default(usualMail.retry),
})
export type MailSettings = z.infer<typeof mailSchema>

const settingsSchema = z.object({
	/** The day the clerk works as of; empty for today. */
	workDate: z.string().default(''),
	mail: mailSchema.default({
		mode: 'practice',
		host: '',
		port: 587,
		secure: false,
		user: '',
		password: '',
		sender: '',
		replyTo: '',
		bcc: '',
		...usualMail,
	}),
	freightTaxCode: z.string().default(''),
	/** Freight where an order names none: an amount of the home currency or a percent; both empty for nothing. */
	freight: z.object({ amount: z.string(), percent: z.string() }).default({ amount: '', percent: '' }),
	/** What documents are numbered by, unless the clerk chooses otherwise for a run: the choice made last. */
	numbering: z.enum(numberings).default('customer'),
	...checkShape,
	/** Stages of past-due letters, as many as the firm likes, one after the other. */
	stages: z
		.array(stageSchema)
		.max(20)
		.default([
			{ name: 'Friendly', days: 1, least: 0, read: false },
			{ name: 'Firm', days: 14, least: 0, read: false },
			{ name: 'Final', days: 14, least: 0, read: false },
		]),
	/** Days ahead that a promise may be for at most. */
	promiseDays: z.number().int().min(1).max(366).default(60),
	/** An extract that settles more than this share (percent) of what is open in a currency, and more than this amount (of home; of others by their code, for one that is not named the share decides), is accepted with a reason alone. */
	extractLimits: z
		.object({
			percent: z.number().min(0).max(100),
			amount: z.number().int().min(0),
			amounts: z.record(z.string(), z.number().int().min(0)).optional(),
		})
		.default({ percent: 70, amount: 100_000 }),
	/** What is charged on what is past due; no rate: nothing. The least is minor units of the home currency. */
	lateTerms: z
		.object({
			rates: z.array(z.object({ from: z.string(), percent: z.string() })),
			per: z.enum(['year', 'month']),
			grace: z.number().int().min(0),
			minimum: z.number().int().min(0),
			year: z.enum(['365', 'actual']),
		})
		.default({ rates: [], per: 'year', grace: 7, minimum: 0, year: '365' }),
	/** What decides the rate of tax: the day of supply (that of the order), or the document's. */
	rateBy: z.enum(['supply', 'document']).default('supply'),
	/** How papers leave, by their kind; as usual where none is said. */
	leaving: z.record(z.string(), leavingSchema).default({}),
	/** Days after which trial prints are thrown away. */
	trialDays: z.number().int().min(1).max(365).default(14),
	/** Years that the files of what was issued are kept, by kind; for good where none is said. */
	keepYears: z.record(z.string(), z.number().int().min(1).max(100)).default({}),
})
export type Settings = z.infer<typeof settingsSchema>

/** All settings, with the usual value where none is set. */
export function readSettings({ sql, folder }: Books): Settings {
	const rows = sql<[], { key: string; value: string }>('SELECT key, value FROM setting').all()
	const settings = settingsSchema.parse(Object.fromEntries(rows.map(({ key, value }) => [key, JSON.parse(value)])))
	return { ...settings, mail: { ...settings.mail, password: mailPassword(folder) } }
}

/** Changes some settings and records it; a password is kept beside the books and never recorded. */
export function changeSettings(books: Books, desk: Desk, change: Partial<Settings>): void {
	if (change.mail) keepMailPassword(books.folder, change.mail.password)
	inOneStep(books, () => {
		const before = readSettings(books)
		const plain = change.mail ? { ...change, mail: { ...change.mail, password: '' } } : change
		for (const [key, value] of Object.entries(plain)) {
			books
				.sql<[string, string]>(
					'INSERT INTO setting (key, value) VALUES (?, ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value',
				)
				.run(key, JSON.stringify(value))
		}
		const after = readSettings(books)
		const bare = (settings: Settings) => ({ ...settings, mail: { ...settings.mail, password: '' } })
		record(books, desk, {
			subject: 'setting',
			id: Object.keys(change).join(', '),
			act: 'changed',
			before: bare(before),
			after: bare(after),
		})
	})
}

/** The day the clerk works as of: the one set, else `today`. */
export const workDate = (books: Books, today: string): string => readSettings(books).workDate || today

/** Names of those who have been at the desk, the first one first. */
export function clerks({ sql }: Books): string[] {
	return sql<[], { name: string }>('SELECT name FROM clerk ORDER BY since, name')
		.all()
		.map(({ name }) => name)
}

/** Seats a clerk at the desk; a known name changes nothing. */
export function seatClerk(books: Books, desk: Desk): void {
	inOneStep(books, () => {
		const { changes } = books
			.sql<[string, string]>('INSERT INTO clerk (name, since) VALUES (?, ?) ON CONFLICT DO NOTHING')
			.run(desk.clerk, desk.now())
		if (changes > 0) record(books, desk, { subject: 'setting', id: 'clerk', act: 'sat down at the desk' })
	})
}

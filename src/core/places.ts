import { counted } from './counted'

// Where a document stands, and all that follows from it: one record a place. The view `placed` (`store/places.ts`) says which one a
// document is at; the tally, the lists, the Desk and the acts read what follows here.

/** How a state is coloured: done, worth a look, stopped, or nothing to do; `act` for what can be acted on. */
export type Tone = 'tie' | 'look' | 'stop' | 'quiet' | 'act'

/** What of a document its reasons name. */
type Named = {
	brief: string | null
	held_by: string | null
	held_reason: string | null
	void_by: string | null
	void_reason: string | null
	replaced_by: string | null
	replaced_reason: string | null
	dropped_by: string | null
	dropped_reason: string | null
	message_answer: string | null
}

type PlaceRule = {
	/** The last stage of the tally that it counts to, 0 for Gathered to 4 for Sent. Below 0 it counts nowhere: another stands for it. */
	stage: number
	/** Whether it stands for its orders, has reached its customer or the files as well, or stands for nothing any more. */
	stands: 'open' | 'done' | 'no'
	/** What a run asks for next because of it; null where that is nothing. */
	next: NextStep | null
	/** The filter of the bench that shows it. */
	filter: PlaceFilter | null
	tone: Tone
	/** On the bench; empty where its checks speak for it. */
	words: string
	/** Among the papers of a record. */
	paper: string
	/** Why the tally does not count it further; empty where there is nothing further. */
	reason: (row: Named) => string
}

/** In the order in which the bench offers them; Look and Clear part drafts by what their checks say. */
export const placeFilters = [
	'Stop',
	'Look',
	'Clear',
	'Held',
	'Numbered',
	'Made',
	'Sent',
	'To read',
	'To print',
	'Printed',
	'Not sent',
	'Void',
	'Revised',
] as const
type PlaceFilter = (typeof placeFilters)[number]

const rules = {
	held: {
		...{ stage: 0, stands: 'open', next: null, filter: 'Held', tone: 'stop' },
		words: 'held',
		paper: 'held back',
		reason: (row) => `held back by ${row.held_by}: ${row.held_reason}`,
	},
	stopped: {
		...{ stage: 0, stands: 'open', next: 'solve', filter: 'Stop', tone: 'stop' },
		words: '',
		paper: 'stopped',
		reason: (row) => `stopped: ${row.brief ?? 'see its checks'}`,
	},
	'to number': {
		...{ stage: 1, stands: 'open', next: 'number', filter: null, tone: 'look' },
		words: '',
		paper: 'draft',
		reason: () => 'not numbered yet',
	},
	'to make': {
		...{ stage: 2, stands: 'open', next: 'make', filter: 'Numbered', tone: 'quiet' },
		words: 'numbered',
		paper: 'issued',
		reason: () => 'no PDF yet',
	},
	made: {
		...{ stage: 3, stands: 'open', next: 'send', filter: 'Made', tone: 'quiet' },
		words: 'PDF made',
		paper: 'issued, not sent yet',
		reason: () => 'not sent yet',
	},
	'to read': {
		...{ stage: 3, stands: 'open', next: 'read', filter: 'To read', tone: 'look' },
		words: 'message held to be read',
		paper: 'held to be read',
		reason: () => 'its message is held to be read',
	},
	waiting: {
		...{ stage: 3, stands: 'open', next: 'send', filter: 'Made', tone: 'quiet' },
		words: 'waits to be sent',
		paper: 'waits to be sent',
		reason: () => 'not sent yet',
	},
	'kept back': {
		...{ stage: 3, stands: 'open', next: 'decide', filter: 'Not sent', tone: 'stop' },
		words: 'message kept back',
		paper: 'message kept back',
		reason: () => 'its message is kept back in the Postroom',
	},
	'put off': {
		...{ stage: 3, stands: 'open', next: 'await', filter: 'Not sent', tone: 'look' },
		words: 'put off, tried again',
		paper: 'put off, tried again',
		reason: (row) => `put off by the mail server, tried again by itself: ${row.message_answer}`,
	},
	refused: {
		...{ stage: 3, stands: 'open', next: 'decide', filter: 'Not sent', tone: 'stop' },
		words: 'refused by the mail server',
		paper: 'refused by the mail server',
		reason: (row) => `refused: ${row.message_answer}`,
	},
	unsure: {
		...{ stage: 3, stands: 'open', next: 'decide', filter: 'Not sent', tone: 'stop' },
		words: 'unsure whether it arrived',
		paper: 'unsure whether it arrived',
		reason: () => 'unsure whether it arrived: decide in the Postroom',
	},
	'to print': {
		...{ stage: 3, stands: 'open', next: 'print', filter: 'To print', tone: 'look' },
		words: 'no email: to print',
		paper: 'to print',
		reason: () => 'no email: to be printed',
	},
	printed: {
		...{ stage: 4, stands: 'done', next: null, filter: 'Printed', tone: 'tie' },
		words: 'printed and posted',
		paper: 'printed',
		reason: () => '',
	},
	filed: {
		...{ stage: 4, stands: 'done', next: null, filter: 'Printed', tone: 'tie' },
		words: 'filed, not sent',
		paper: 'filed',
		reason: () => '',
	},
	sent: {
		...{ stage: 4, stands: 'done', next: null, filter: 'Sent', tone: 'tie' },
		words: 'sent',
		paper: 'sent',
		reason: () => '',
	},
	void: {
		...{ stage: 1, stands: 'no', next: null, filter: 'Void', tone: 'stop' },
		words: 'void',
		paper: 'void',
		reason: (row) => `void, made so by ${row.void_by}: ${row.void_reason}`,
	},
	replaced: {
		...{ stage: -2, stands: 'no', next: null, filter: 'Revised', tone: 'quiet' },
		words: 'revised',
		paper: 'replaced',
		reason: (row) => `revised by ${row.replaced_by}: ${row.replaced_reason}`,
	},
	dropped: {
		...{ stage: -2, stands: 'no', next: null, filter: null, tone: 'quiet' },
		words: 'put away',
		paper: 'put away',
		reason: (row) => `put away by ${row.dropped_by}: ${row.dropped_reason}`,
	},
} satisfies Record<string, PlaceRule>

export type Place = keyof typeof rules
export const placeRules: Readonly<Record<Place, PlaceRule>> = rules
export const places = Object.keys(rules).filter((name): name is Place => name in rules)
/** The places of which something is so. */
export const placesWhere = (so: (rule: PlaceRule) => boolean): Place[] =>
	places.filter((place) => so(placeRules[place]))

/** What a run may ask for next: on the Desk, and on the run's button. */
type StepRule = {
	desk: string
	/** @param of how many, what one and several are called, and whether mail is real or practice */
	button: (of: { count: number; noun: string; nouns: string; mail: string }) => string
}
/** In the order in which a run asks for them. */
const steps = {
	number: { desk: 'to number', button: ({ count, noun, nouns }) => `Number ${counted(count, noun, nouns)}` },
	make: { desk: 'PDFs to make', button: ({ count }) => `Make ${counted(count, 'PDF')}` },
	send: {
		desk: 'to send',
		button: ({ count, noun, nouns, mail }) =>
			mail === 'practice' ? `Send ${count} in practice` : `Send ${counted(count, noun, nouns)}`,
	},
	read: { desk: 'messages to read', button: ({ count }) => `Read ${counted(count, 'message')} held` },
	decide: { desk: 'to decide on', button: ({ count }) => `Decide on ${count} in the Postroom` },
	print: { desk: 'to print', button: ({ count }) => `Note ${count} as printed and posted` },
	await: { desk: 'messages put off', button: ({ count }) => `See ${counted(count, 'message')} put off` },
	solve: { desk: 'stopped, to solve', button: ({ count }) => `Look at ${count} stopped` },
	close: { desk: 'done, to close', button: () => 'Close the run' },
} satisfies Record<string, StepRule>
export type NextStep = keyof typeof steps
export const nextSteps: Readonly<Record<NextStep, StepRule>> = steps
export const stepNames = Object.keys(steps).filter((name): name is NextStep => name in steps)

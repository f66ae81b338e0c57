import { createHash } from 'node:crypto'
import { messageIdFor } from '@/post/compose'
import type { Books } from '@/store/books'
import { firstSeal, sealOf } from '@/store/events'
import type { Verdict } from '@/store/verify'
import {
	allAttempts,
	allEvents,
	allMessages,
	handedOver,
	keptWhole,
	registerCounts,
	registerSkips,
	registersSet,
} from '@/store/watch'

/** Events follow each other without a gap, and each has the seal of what it says and of the one before. */
export function recordSealed(books: Books): Verdict {
	const wrong: string[] = []
	let looked = 0
	let before: { id: number; seal: string } | null = null
	const first = firstSeal(books)
	for (const { id, seal, ...said } of allEvents(books)) {
		looked++
		if (before && id !== before.id + 1) wrong.push(`of the record, ${before.id + 1} to ${id - 1} are not there`)
		if (!before && id !== 1) wrong.push(`of the record, 1 to ${id - 1} are not there`)
		const due: string = seal === '' ? '' : sealOf(before?.seal || first, said)
		if (seal !== due) wrong.push(`the record of ${said.at} (${said.clerk} ${said.act}) is not as it was written`)
		if (seal === '' && before && before.seal !== '')
			wrong.push(`the record of ${said.at} (${said.clerk} ${said.act}) has no seal`)
		before = { id, seal }
	}
	return { looked, wrong: wrong.slice(0, 50) }
}

/** Messages go with a document of their run, to whom and with what their Message-ID was made of; attempts tried what the message says. */
export function messagesRight(books: Books): Verdict {
	const wrong: string[] = []
	let looked = 0
	for (const message of allMessages(books)) {
		looked++
		const { number, file_sha256, sender, recipient } = message
		if (message.run_id !== message.document_run) wrong.push(`the message of ${number} is of another run`)
		if (file_sha256 && messageIdFor({ number, fileSha256: file_sha256, recipient, sender }) !== message.message_id)
			wrong.push(`the message of ${number} is to ${recipient} from ${sender}, and was written otherwise`)
	}
	for (const tried of allAttempts(books)) {
		looked++
		if (tried.copy === '' && tried.subject !== tried.their_subject)
			wrong.push(`an attempt for ${tried.number} bears another subject`)
	}
	for (const { number, state } of handedOver(books))
		wrong.push(`the message of ${number} was handed over, and counts as ${state}`)
	return { looked, wrong }
}

/** Registers stand after the last value they gave, but where a person set what comes next; what was left out, a person left out. */
export function registersRight(books: Books): Verdict {
	const set = registersSet(books)
	const wasSet = (kind: string, next: number) => set.some((one) => one.kind === kind && one.next === next)
	const wrong: string[] = []
	const counts = registerCounts(books)
	for (const { kind, next, highest } of counts) {
		if (highest !== null && next !== highest + 1 && !wasSet(kind, next))
			wrong.push(`${kind} register: ${next} comes next, after ${highest}, and nobody set it so`)
		if (highest === null && next !== 1 && !wasSet(kind, next))
			wrong.push(`${kind} register begins at ${next}, and nobody set it so`)
	}
	for (const { kind, first, last, before, after, within } of registerSkips(books))
		if (before === 0 || after === 0 || within > 0 || !wasSet(kind, last + 1))
			wrong.push(`${kind} register: ${first} to ${last} is said to be left out, and nobody left it out`)
	return { looked: counts.length, wrong }
}

/** Files as they came, pictures and forms are what their hashes say. */
export function keptRight(books: Books): Verdict {
	const wrong: string[] = []
	let looked = 0
	for (const { what, sha256, size, bytes } of keptWhole(books)) {
		looked++
		const hash = createHash('sha256')
		let length = 0
		for (const part of bytes) {
			hash.update(part)
			length += part.length
		}
		if (hash.digest('hex') !== sha256) wrong.push(`${what} is not what it was`)
		else if (size !== null && size !== length) wrong.push(`${what} has ${length} bytes, and is said to have ${size}`)
	}
	return { looked, wrong }
}

import { createHash } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { amountText, parseAmount } from '@/core/currency'
import { priceInputOf } from '@/core/document'
import { readPaper } from '@/core/paper'
import { price, pricedText } from '@/core/price'
import type { StatementContent } from '@/core/statement'
import { arrivalCounts, openPracticePost } from '@/post/practiceMail'
import type { Books } from '@/store/books'
import {
	databaseSound,
	type Finding,
	issuedDocuments,
	messagesOnce,
	numbersOnce,
	numbersWithoutGap,
	ordersOnce,
	practiceSent,
	tallyTies,
} from '@/store/verify'
import { filesFolder } from './paper'

export type Verified = Finding & { check: string }

/** Looks whether the books hold together; works on any books at any time and changes nothing. */
export function verify(books: Books): Verified[] {
	const checks: [check: string, look: (books: Books) => Finding][] = [
		['the database is sound', databaseSound],
		['numbers run on without a gap', numbersWithoutGap],
		['each number is on one frozen document', numbersOnce],
		['each order is billed once', ordersOnce],
		['the tally ties', tallyTies],
		['each figure is what its document comes to', figuresRight],
		['each made document has the file that was recorded', filesRight],
		['each message has its file and went once', messagesOnce],
		['practice mail arrived once each', arrivedOnce],
	]
	return checks.map(([check, look]) => ({ check, ...look(books) }))
}

/** Prices every issued document anew and compares it with what was frozen and with what the lists show. */
function figuresRight(books: Books): Finding {
	const wrong: string[] = []
	let looked = 0
	for (const { number, content: text, net, tax, total } of issuedDocuments(books)) {
		looked++
		const content = readPaper(text)
		if (content.kind === 'statement') {
			if (!addsUp(content)) wrong.push(`${number} does not add up`)
			continue
		}
		const priced = price(priceInputOf(content))
		const shown = [net, tax, total].map((minor) => amountText(BigInt(minor), content.currency))
		const { priced: frozen } = content
		const same = priced.ok && JSON.stringify(pricedText(priced.value)) === JSON.stringify(frozen)
		if (!same || [frozen.net, frozen.taxTotal, frozen.total].join() !== shown.join())
			wrong.push(`${number} comes to other figures than were frozen`)
	}
	return { looked, wrong }
}

/** Whether a statement asks for what stands on it, and its buckets less its credits make its balance. */
function addsUp(content: StatementContent): boolean {
	const minor = (amount: string) => parseAmount(amount, content.currency, 'amount')
	const sum = (amounts: string[]) => amounts.reduce((total, amount) => total + minor(amount), 0n)
	const owed = sum(content.buckets.map(({ amount }) => amount))
	const listed = content.form === 'open items' ? sum(content.items.map(({ open }) => open)) : minor(content.balance)
	return listed === minor(content.total) && owed - minor(content.unapplied) === minor(content.balance)
}

function filesRight(books: Books): Finding {
	const wrong: string[] = []
	let looked = 0
	for (const { number, file_name, file_sha256 } of issuedDocuments(books)) {
		if (!file_name || !file_sha256) continue
		looked++
		const path = join(filesFolder(books), file_name)
		if (!existsSync(path)) wrong.push(`${number}: ${file_name} is missing; opening the document makes it again`)
		else if (createHash('sha256').update(readFileSync(path)).digest('hex') !== file_sha256)
			wrong.push(`${number}: ${file_name} is not the file that was recorded`)
	}
	return { looked, wrong }
}

function arrivedOnce(books: Books): Finding {
	const folder = join(books.folder, 'practice-mail')
	if (!existsSync(join(folder, 'practice-mail.db'))) return { looked: 0, wrong: [] }
	const post = openPracticePost(folder)
	const arrived = arrivalCounts(post)
	post.close()
	const sent = practiceSent(books)
	const wrong = sent
		.filter(({ message_id }) => arrived.get(message_id) !== 1)
		.map(({ message_id, number }) => `${number} arrived ${arrived.get(message_id) ?? 0} times`)
	return { looked: sent.length, wrong }
}

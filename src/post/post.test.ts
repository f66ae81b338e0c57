import { mkdtempSync } from 'node:fs'
import type { Server } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, describe, expect, test } from 'vitest'
import { composeMessage, messageIdFor } from './compose'
import { arrivals, openArrival, openPracticePost, practiceServer } from './practiceMail'
import { openMailLine } from './smtp'

const letter = {
	messageId: messageIdFor({
		number: 'T-0041',
		fileSha256: 'abc',
		recipient: 'a1@shore.example',
		sender: 'post@tarn.example',
	}),
	sender: 'post@tarn.example',
	senderName: 'Tarn Chandlers, Ltd',
	recipient: 'a1@shore.example',
	subject: 'Invoice T-0041 für Łodge',
	body: 'Dear Łodge,\n\n.a line that begins with a point',
	writtenAt: '2026-10-31T09:00:00.000Z',
	files: [{ name: 'T-0041 Łodge.pdf', bytes: Buffer.from('%PDF-1.3 the file'), type: 'application/pdf' }],
	cc: '',
	replyTo: '',
}
const toClose: { close: () => unknown }[] = []
afterEach(() => {
	for (const server of toClose.splice(0)) server.close()
})

const portOf = (server: Server) => {
	const address = server.address()
	return typeof address === 'object' && address ? address.port : 0
}
const server = (port: number) => ({ host: '127.0.0.1', port, secure: false, user: '', password: '' })

async function practice() {
	const db = openPracticePost(mkdtempSync(join(tmpdir(), 'north-tally-post-')))
	const smtp = practiceServer(db, () => '2026-10-31T09:00:00.000Z')
	await new Promise<void>((done) => smtp.listen(0, '127.0.0.1', done))
	toClose.push(smtp)
	return { db, line: openMailLine(server(portOf(smtp.server))) }
}

describe('a message', () => {
	test('has the same bytes whenever it is made, and an id that only its content decides', async () => {
		const first = await composeMessage(letter)
		expect((await composeMessage({ ...letter })).sha256).toBe(first.sha256)
		expect((await composeMessage({ ...letter, body: 'Another' })).sha256).not.toBe(first.sha256)
		expect(letter.messageId).toMatch(/^<T-0041\.[0-9a-f]{24}@tarn\.example>$/)
		expect(
			messageIdFor({ number: 'T-0041', fileSha256: 'abd', recipient: 'a1@shore.example', sender: 'post@tarn.example' }),
		).not.toBe(letter.messageId)
	})

	test('arrives at the practice server as it was written, file included', async () => {
		const { db, line } = await practice()
		const { raw } = await composeMessage(letter)
		expect(await line.send({ from: letter.sender, to: [letter.recipient] }, raw)).toMatchObject({
			outcome: 'sent',
			answer: expect.stringContaining('Kept as practice message 1'),
		})
		await line.send({ from: letter.sender, to: [letter.recipient] }, raw)
		line.close()
		expect(arrivals(db, 'shore', 10)).toMatchObject({
			total: 2,
			rows: [{ id: 2 }, { id: 1, message_id: letter.messageId, subject: letter.subject }],
		})
		expect(arrivals(db, '100%', 10).total).toBe(0)
		const opened = await openArrival(db, 1)
		expect(opened?.raw.equals(raw)).toBe(true)
		expect(opened?.mail.text).toContain('.a line that begins with a point')
		expect(opened?.mail.attachments[0]).toMatchObject({ filename: 'T-0041 Łodge.pdf', contentType: 'application/pdf' })
		expect(opened?.mail.attachments[0]?.content.equals(letter.files[0]?.bytes ?? Buffer.alloc(0))).toBe(true)
	})
})

describe('what came of handing it over', () => {
	const send = async (port: number) =>
		openMailLine(server(port)).send(
			{ from: letter.sender, to: [letter.recipient] },
			Buffer.from('Subject: x\r\n\r\nx\r\n'),
		)

	test('refused, with the server’s words, and the line serves the next message', async () => {
		const { line } = await practice()
		const raw = Buffer.from('Subject: x\r\n\r\nx\r\n')
		expect(await line.send({ from: letter.sender, to: ['refuse@shore.example'] }, raw)).toMatchObject({
			outcome: 'refused',
			answer: '550 No such mailbox: refuse@shore.example',
		})
		expect(await line.send({ from: letter.sender, to: [letter.recipient] }, raw)).toMatchObject({ outcome: 'sent' })
		line.close()
	})

	test('away, when no server answers', async () => {
		expect(await send(1)).toMatchObject({
			outcome: 'away',
			answer: expect.stringContaining('127.0.0.1:1 does not take mail'),
		})
	})
})

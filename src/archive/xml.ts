import type { Readable } from 'node:stream'
import { SaxesParser } from 'saxes'
import { refuse } from '@/core/refusal'

type Handlers = {
	open?: (name: string, attributes: Record<string, string>) => void
	text?: (text: string) => void
	close?: (name: string) => void
}

class BadXml extends Error {}

const localName = (name: string): string => name.slice(name.indexOf(':') + 1)
const longestText = 10_000_000

/** Reads XML as it comes. Refused: what is not well formed, a document type with entities of its own, a text of more than ten million characters. */
export async function readXml(stream: Readable, { open, text, close }: Handlers): Promise<void> {
	const parser = new SaxesParser({ position: false })
	let since = 0
	// One that only names a type is harmless, and stands in many an older file: nothing of it is fetched.
	parser.on('doctype', (type) => {
		if (type.includes('[')) throw new BadXml('it declares entities')
	})
	parser.on('error', (error) => {
		throw new BadXml(error.message)
	})
	parser.on('opentag', (tag) => {
		since = 0
		open?.(localName(tag.name), tag.attributes as Record<string, string>)
	})
	parser.on('closetag', (tag) => {
		since = 0
		close?.(localName(tag.name))
	})
	if (text) parser.on('text', text)
	const decoder = new TextDecoder('utf-8')
	try {
		for await (const chunk of stream) {
			since += chunk.length
			if (since > longestText) throw new BadXml('a text in it is longer than ten million characters')
			parser.write(decoder.decode(chunk, { stream: true }))
		}
		parser.write(decoder.decode()).close()
	} catch (error) {
		if (error instanceof BadXml || (error instanceof Error && /size|inflate|invalid|corrupt|CRC/i.test(error.message)))
			return refuse('file', `The file cannot be read: ${error.message}. Save it again and choose the new one.`)
		throw error
	} finally {
		stream.destroy()
	}
}

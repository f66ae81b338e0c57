import { createHash } from 'node:crypto'
import { type AnyContent, kindOf, layOut } from '@/kinds'
import { fontKit } from './fontKit'
import type { Logo } from './logo'
import { writePdf } from './writePdf'

export type MadePdf = { bytes: Buffer; sha256: string; pages: number }

/** The PDF of a document, from what it says alone: the same content and logo always give the same bytes. */
export async function makeDocument(content: AnyContent, logo: Logo | null): Promise<MadePdf> {
	const pages = layOut(content, fontKit().metrics, logo)
	const { name } = kindOf(content.kind).words
	const title = content.number ? `${name} ${content.number}` : `Draft ${name.toLowerCase()}`
	const subject = `${title} to ${content.customer.name}`
	const bytes = await writePdf([{ pages, logo }], { title, author: content.issuer.name, subject, day: content.day })
	return { bytes, sha256: createHash('sha256').update(bytes).digest('hex'), pages: pages.length }
}

/** Several documents as one PDF to print, one after the other, each with the logo that it was issued with. */
export function makeTogether(documents: { content: AnyContent; logo: Logo | null }[]): Promise<Buffer> {
	const first = documents[0]?.content
	const title = `${documents.length} documents to print`
	return writePdf(
		documents.map(({ content, logo }) => ({ pages: layOut(content, fontKit().metrics, logo), logo })),
		{ title, author: first?.issuer.name ?? '', subject: title, day: first?.day ?? '2000-01-01' },
	)
}

import { createHash } from 'node:crypto'
import { type DocumentContent, kindName } from '@/core/document'
import { layoutInvoice } from '@/layout/invoice'
import { fontKit } from './fontKit'
import type { Logo } from './logo'
import { writePdf } from './writePdf'

export type MadePdf = { bytes: Buffer; sha256: string; pages: number }

/** The PDF of a document, from what it says alone: the same content and logo always give the same bytes. */
export async function makeDocument(content: DocumentContent, logo: Logo | null): Promise<MadePdf> {
	const pages = layoutInvoice(content, fontKit().metrics, logo)
	const name = kindName[content.kind]
	const title = content.number ? `${name} ${content.number}` : `Draft ${name.toLowerCase()}`
	const bytes = await writePdf(
		pages,
		{ title, author: content.issuer.name, subject: `${title} to ${content.customer.name}`, day: content.day },
		logo,
	)
	return { bytes, sha256: createHash('sha256').update(bytes).digest('hex'), pages: pages.length }
}

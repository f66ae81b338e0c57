import { randomBytes } from 'node:crypto'
import { PDFDocument } from '@cantoo/pdf-lib'

/**
 * A copy of a PDF that opens with a password alone (AES-256, revision 6 of ISO 32000-2, 7.6.4). It may be printed, copied from and read
 * aloud, and not changed. Every copy is salted anew, so that no two have the same bytes.
 */
export async function lockPdf(bytes: Uint8Array, password: string): Promise<Buffer> {
	const pdf = await PDFDocument.load(bytes, { updateMetadata: false })
	pdf.encrypt({
		userPassword: password,
		// Nobody has it: what the password allows is all that is allowed.
		ownerPassword: randomBytes(24).toString('base64'),
		permissions: { printing: 'highResolution', copying: true, contentAccessibility: true },
	})
	return Buffer.from(await pdf.save({ useObjectStreams: false, addDefaultPage: false, updateFieldAppearances: false }))
}

/** Whether a password opens a PDF. */
export async function opensWith(bytes: Uint8Array, password: string): Promise<boolean> {
	try {
		await PDFDocument.load(bytes, { updateMetadata: false, password })
		return true
	} catch {
		return false
	}
}

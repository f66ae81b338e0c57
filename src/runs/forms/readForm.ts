import { sourceOf } from '@/archive/source'
import { Refused } from '@/core/refusal'
import { type Form, mapParagraphs, type Picture } from '@/forms/form'
import { readForm } from '@/forms/readForm'
import { readLogo } from '@/pdf/logo'

/** A form as it was read with its pictures, or why it cannot be. */
export type FormRead = { ok: true; form: Form; pictures: Picture[] } | { ok: false; message: string }

/** Reads a form's bytes. Pictures that cannot be printed are left out of it, and named. */
export async function readFormBytes(name: string, bytes: Buffer): Promise<FormRead> {
	try {
		const { form, pictures } = await readForm(sourceOf(name, bytes))
		const left = new Map<string, string>()
		for (const { sha256, type, bytes: own } of pictures) {
			const read = await readLogo(type, own, sha256)
			if (!read.ok) left.set(sha256, read.refusal.message)
		}
		return {
			ok: true,
			form: left.size > 0 ? withoutPictures(form, left) : form,
			pictures: pictures.filter(({ sha256 }) => !left.has(sha256)),
		}
	} catch (error) {
		if (error instanceof Refused) return { ok: false, message: error.refusal.message }
		throw error
	}
}

function withoutPictures(form: Form, left: ReadonlyMap<string, string>): Form {
	const notes = [...form.notes]
	const without = mapParagraphs(form, (paragraph) => ({
		...paragraph,
		inlines: paragraph.inlines.filter((inline) => {
			const why = inline.is === 'picture' ? left.get(inline.sha256) : undefined
			if (why !== undefined) notes.push({ block: paragraph.id, words: `A picture is left out. ${why}` })
			return why === undefined
		}),
	}))
	return { ...without, notes }
}

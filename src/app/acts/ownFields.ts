'use server'
import { z } from 'zod'
import { no } from '@/core/outcome'
import { ownOf, ownTypes } from '@/core/ownFields'
import { pictureFaults } from '@/runs/files/untrustedImages'
import { dropOwnField, makeOwnField, setPictures, takePictureAway } from '@/runs/firm/ownFields'
import { act, formed, longAct } from './seam'

const whose = z.enum(['customer', 'item'])

export const addField = formed(
	z.object({ of: z.enum(ownOf), name: z.string(), type: z.enum(ownTypes) }),
	({ books, desk }, field) => makeOwnField(books, desk, field),
)
export const takeFieldAway = act(z.tuple([z.enum(ownOf), z.string()]), ({ books, desk }, of, key) =>
	dropOwnField(books, desk, of, key),
)
/** Pictures of customers or items, each named by its number or code; `field` has whose and which. */
export const setOwnPictures = longAct(z.tuple([z.instanceof(FormData)]), async ({ books, desk }, form) => {
	const [of = '', key = ''] = String(form.get('field') ?? '').split(' ')
	const known = whose.safeParse(of)
	if (!known.success) return no('Say whose pictures they are.')
	const only = String(form.get('code') ?? '')
	const files = form.getAll('pictures').flatMap((file) => (file instanceof File && file.size > 0 ? [file] : []))
	return setPictures(
		books,
		desk,
		known.data,
		key,
		await Promise.all(
			files.map(async (file) => ({
				name: only || file.name,
				type: file.type,
				bytes: Buffer.from(await file.arrayBuffer()),
			})),
		),
		pictureFaults,
	)
})
export const removePicture = act(z.tuple([whose, z.string(), z.string()]), ({ books, desk }, of, code, key) =>
	takePictureAway(books, desk, of, code, key),
)

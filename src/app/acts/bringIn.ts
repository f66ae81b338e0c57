'use server'
import { z } from 'zod'
import { fileKinds } from '@/intake/kinds'
import { readingSchema } from '@/intake/reading'
import { acceptFile, changeReading, dropFile } from '@/runs/bringIn'
import { act, id } from './seam'

export const setReading = act(z.tuple([id, readingSchema.partial()]), ({ books }, fileId, change) => {
	changeReading(books, fileId, change)
	return { ok: true }
})
export const setKind = act(z.tuple([id, z.enum(fileKinds)]), ({ books }, fileId, kind) => {
	changeReading(books, fileId, { kind })
	return { ok: true }
})
export const accept = act(z.tuple([id]), ({ books, desk }, fileId) => acceptFile(books, desk, fileId))
export const drop = act(z.tuple([id]), ({ books, desk }, fileId) => {
	dropFile(books, desk, fileId)
	return { ok: true }
})

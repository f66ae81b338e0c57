'use server'
import { z } from 'zod'
import { fileKinds } from '@/intake/kinds'
import { readingSchema } from '@/intake/reading'
import { correctValue, leaveRowsOut, takeRowsIn } from '@/runs/bringIn/correct'
import { makeCustomer, makeItem, makeTaxCode } from '@/runs/bringIn/make'
import { copyReader, dropReader, editReader, readerChangeSchema, saveReader } from '@/runs/bringIn/readerActs'
import {
	answer,
	askToAccept,
	askToTakeBack,
	changeReading,
	dropFile,
	readAgain,
	readByMarks,
	setKind as setKindOf,
} from '@/runs/bringIn/receive'
import { answersSchema } from '@/runs/bringIn/review'
import { holdWaiting, withdrawOrder } from '@/runs/bringIn/takeBack'
import { askFileToStop } from '@/store/jobs'
import { act, formed, id, partOf } from './seam'

export const setReading = act(z.tuple([id, partOf(readingSchema)]), ({ books, desk }, fileId, change) =>
	changeReading(books, desk, fileId, change),
)
export const setMarks = act(z.tuple([id, z.string(), partOf(readingSchema)]), ({ books, desk }, fileId, was, change) =>
	readByMarks(books, desk, fileId, was, change),
)
export const setKind = act(z.tuple([id, z.enum(fileKinds)]), ({ books, desk }, fileId, kind) =>
	setKindOf(books, desk, fileId, kind),
)
export const answerFile = act(z.tuple([id, partOf(answersSchema)]), ({ books, desk }, fileId, given) =>
	answer(books, desk, fileId, given),
)
export const accept = act(z.tuple([id, z.string()]), ({ books, desk }, fileId, seen) =>
	askToAccept(books, desk, fileId, seen),
)
export const takeBack = act(z.tuple([id, z.string()]), ({ books, desk }, fileId, reason) =>
	askToTakeBack(books, desk, fileId, reason),
)
export const readFileAgain = act(z.tuple([id]), ({ books, desk }, fileId) => readAgain(books, desk, fileId))
export const stopFile = act(z.tuple([id]), ({ books }, fileId) => {
	askFileToStop(books, fileId)
	return { ok: true }
})
export const drop = act(
	z.tuple([id]),
	({ books, desk }, fileId) => {
		dropFile(books, desk, fileId)
		return { ok: true }
	},
	true,
)
const place = z.number().int().min(0)
export const correct = act(
	z.tuple([
		id,
		z.object({ row: place, place, field: z.string().max(100), was: z.string(), now: z.string().max(5000) }),
	]),
	({ books, desk }, fileId, what) => correctValue(books, desk, fileId, what),
)
const rows = z.array(z.number().int().min(1)).min(1).max(20_000)
export const leaveOut = act(z.tuple([id, rows, z.string()]), ({ books, desk }, fileId, which, reason) =>
	leaveRowsOut(books, desk, fileId, which, reason),
)
export const takeIn = act(z.tuple([id, rows]), ({ books, desk }, fileId, which) =>
	takeRowsIn(books, desk, fileId, which),
)

export const saveAsReader = act(z.tuple([id, z.string()]), ({ books, desk }, fileId, name) =>
	saveReader(books, desk, fileId, name),
)
export const changeReader = act(
	z.tuple([id, z.number().int(), readerChangeSchema]),
	({ books, desk }, readerId, version, change) => editReader(books, desk, readerId, version, change),
)
export const copyOfReader = act(z.tuple([id]), ({ books, desk }, readerId) => copyReader(books, desk, readerId))
export const takeReaderAway = act(z.tuple([id]), ({ books, desk }, readerId) => dropReader(books, desk, readerId))

const made = z.object({ what: z.enum(['customer', 'item', 'tax code']), file: z.coerce.number() }).catchall(z.string())
/** Makes what a file names and the books do not have, and looks at the file again. */
export const makeMissing = formed(made, ({ books, desk }, fields) => {
	const maker = { customer: makeCustomer, item: makeItem, 'tax code': makeTaxCode }[fields.what]
	return maker(books, desk, fields.file, fields)
})

export const withdraw = act(z.tuple([id, z.string()]), ({ books, desk }, orderId, reason) =>
	withdrawOrder(books, desk, orderId, reason),
)
export const holdWaitingOrder = act(z.tuple([id, z.string().nullable()]), ({ books, desk }, orderId, reason) =>
	holdWaiting(books, desk, orderId, reason),
)

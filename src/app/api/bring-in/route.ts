import { basename } from 'node:path'
import { books, desk } from '@/app/books'
import { receiveFile } from '@/runs/bringIn'

const largest = 50_000_000

/** Takes a chosen or dropped file in to be looked at. */
export async function POST(request: Request): Promise<Response> {
	const file = (await request.formData()).get('file')
	if (!(file instanceof File)) return Response.json({ message: 'Choose a file.' }, { status: 400 })
	if (file.size > largest)
		return Response.json(
			{ message: `${file.name} is over 50 MB. Split it and bring the parts in one by one.` },
			{ status: 400 },
		)
	const received = receiveFile(books(), await desk(), basename(file.name), Buffer.from(await file.arrayBuffer()))
	if (!received.ok) return Response.json({ message: `${file.name}: ${received.refusal.message}` }, { status: 422 })
	return Response.json({ id: received.id, again: received.again })
}

import { books } from '@/app/books'
import { panelOf } from '@/runs/panel'

/** What stands beside the list for one document. */
export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
	const panel = panelOf(books(), Number((await params).id))
	return panel ? Response.json(panel) : Response.json({ message: 'There is no such document.' }, { status: 404 })
}

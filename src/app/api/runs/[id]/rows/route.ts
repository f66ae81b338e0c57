import { books } from '@/app/books'
import { benchView } from '@/runs/benchView'
import { benchRows } from '@/store/places'

/** All rows of a run's list. */
export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
	return Response.json(benchRows(books(), Number((await params).id)).map(benchView))
}

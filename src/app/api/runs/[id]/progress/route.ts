import { books } from '@/app/books'
import { latestJob } from '@/store/jobs'

const interval = 250

/** Server-sent events: the run's latest step, whenever it changed. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
	const runId = Number((await params).id)
	const encoder = new TextEncoder()
	let timer: NodeJS.Timeout | undefined
	const stream = new ReadableStream<Uint8Array>({
		start(controller) {
			let last = ''
			const look = () => {
				const job = JSON.stringify(latestJob(books(), runId))
				if (job !== last) controller.enqueue(encoder.encode(`data: ${job}\n\n`))
				last = job
			}
			look()
			timer = setInterval(look, interval)
			request.signal.addEventListener('abort', () => {
				clearInterval(timer)
				controller.close()
			})
		},
		cancel: () => clearInterval(timer),
	})
	return new Response(stream, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' } })
}

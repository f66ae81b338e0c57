import { answering, idOf } from '@/app/reading'
import { latestJob } from '@/store/jobs'

const interval = 250

/** Server-sent events: the run's latest step, whenever it changed. */
export const GET = answering(({ books: own }, request, params) => {
	const runId = idOf(params.id)
	const encoder = new TextEncoder()
	let timer: NodeJS.Timeout | undefined
	const stream = new ReadableStream<Uint8Array>({
		start(controller) {
			let last = ''
			const look = () => {
				const job = JSON.stringify(latestJob(own, runId))
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
})

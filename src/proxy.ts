import { type NextRequest, NextResponse } from 'next/server'

const own = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/

/**
 * Until there is sign-in, the web serves this machine alone: a request under another name (a rebound one), or a change asked
 * for by a page of another origin, is turned away.
 */
export function proxy(request: NextRequest): NextResponse {
	const host = request.headers.get('host') ?? ''
	const origin = request.headers.get('origin')
	const foreign = origin !== null && request.method !== 'GET' && new URL(origin).host !== host
	if (!own.test(host) || foreign) return new NextResponse('North Tally answers on this machine only.', { status: 403 })
	return NextResponse.next()
}

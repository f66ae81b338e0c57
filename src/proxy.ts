import { type NextRequest, NextResponse } from 'next/server'

const own = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/

/** On every answer, whatever it is. */
const always = {
	'x-content-type-options': 'nosniff',
	'x-frame-options': 'DENY',
	'referrer-policy': 'same-origin',
	'cross-origin-opener-policy': 'same-origin',
	'cross-origin-resource-policy': 'same-origin',
	'permissions-policy':
		'accelerometer=(), camera=(), display-capture=(), geolocation=(), gyroscope=(), microphone=(), midi=(), payment=(), publickey-credentials-get=(), usb=(), xr-spatial-tracking=()',
}
const nowhere = "base-uri 'none'; form-action 'self'; frame-ancestors 'none'; object-src 'none'"
/** What is no page runs nothing and fetches nothing; a picture of lines has its own styles. */
const forFiles = `default-src 'none'; style-src 'unsafe-inline'; ${nowhere}`

/**
 * A page runs our own scripts alone, each named by the page's nonce, and talks to nobody but us; a message shown in it fetches nothing.
 * Widths that a list works out stand in its elements' style attributes, which can fetch nothing under the rest.
 */
function forPages(nonce: string): string {
	// While developing, React rebuilds what it was given as text.
	const developing = process.env.NODE_ENV === 'development'
	const dev = developing ? " 'unsafe-eval'" : ''
	return [
		"default-src 'none'",
		`script-src 'self' 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'${dev}`,
		developing ? "style-src-elem 'self' 'unsafe-inline'" : `style-src-elem 'self' 'nonce-${nonce}'`,
		"style-src-attr 'unsafe-inline'",
		"img-src 'self' data: blob:",
		"font-src 'self' data:",
		"connect-src 'self'",
		"worker-src 'self' blob:",
		"manifest-src 'self'",
		"frame-src 'self'",
		nowhere,
	].join('; ')
}

/** Whether a change is asked for by a page of another origin, or of none that can be named. */
function isForeign(request: NextRequest, host: string): boolean {
	const origin = request.headers.get('origin')
	if (origin === null || request.method === 'GET' || request.method === 'HEAD') return false
	try {
		return new URL(origin).host !== host
	} catch {
		return true
	}
}

/**
 * Until there is sign-in, the web serves this machine alone: a request under another name (a rebound one), or a change asked
 * for by a page of another origin, is turned away. Every answer says what a browser may do with it.
 */
export function proxy(request: NextRequest): NextResponse {
	const host = request.headers.get('host') ?? ''
	const { pathname } = request.nextUrl
	const page = !pathname.startsWith('/api/') && !pathname.startsWith('/_next/static/')
	const nonce = page ? btoa(crypto.randomUUID()) : ''
	const policy = page ? forPages(nonce) : forFiles
	const headers = new Headers(request.headers)
	headers.delete('x-nonce')
	if (page) {
		headers.set('content-security-policy', policy)
		headers.set('x-nonce', nonce)
	}
	const answer =
		!own.test(host) || isForeign(request, host)
			? new NextResponse('North Tally answers on this machine only.', { status: 403 })
			: NextResponse.next({ request: { headers } })
	for (const [name, value] of Object.entries({ ...always, 'content-security-policy': policy }))
		answer.headers.set(name, value)
	return answer
}

/** What a browser may show by itself: nothing in these can run. */
const shown = ['application/pdf', 'image/png']

/**
 * A file as an answer, under the type that it is said to have. Only a PDF or a PNG is shown in the browser; anything else is saved, as is
 * what is not wanted shown. What a stranger made, an attached page say, never runs as ours.
 */
export function fileAnswer(
	bytes: Uint8Array,
	{ type, name, show = true, kept = false }: { type: string; name: string; show?: boolean; kept?: boolean },
): Response {
	const plain = type.split(';')[0]?.trim().toLowerCase() ?? ''
	const inline = show && shown.includes(plain)
	return new Response(new Uint8Array(bytes), {
		headers: {
			'content-type': /^[\w.+-]+\/[\w.+-]+(; ?charset=[\w-]+)?$/.test(type) ? type : 'application/octet-stream',
			'content-disposition': `${inline ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(name)}`,
			'x-content-type-options': 'nosniff',
			...(kept ? {} : { 'cache-control': 'no-store' }),
		},
	})
}

import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'

/** The text of each page of a PDF, its pieces parted by spaces. */
export async function pdfText(bytes: Uint8Array): Promise<string[]> {
	const task = getDocument({ data: new Uint8Array(bytes), verbosity: 0 })
	const pdf = await task.promise
	const pages: string[] = []
	for (let number = 1; number <= pdf.numPages; number++) {
		const { items } = await (await pdf.getPage(number)).getTextContent()
		pages.push(
			items
				.map((item) => ('str' in item ? item.str : ''))
				.join(' ')
				.replace(/\s+/g, ' '),
		)
	}
	await task.destroy()
	return pages
}

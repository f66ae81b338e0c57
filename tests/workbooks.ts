import { zipSync } from 'fflate'

const text = (value: string) => Buffer.from(value)
const relations = (list: [type: string, target: string][]) =>
	text(
		`<Relationships xmlns="r">${list
			.map(([type, target], place) => `<Relationship Id="rId${place + 1}" Type="http://x/${type}" Target="${target}"/>`)
			.join('')}</Relationships>`,
	)

/** A workbook put together by hand: the XML of each sheet by its name. */
export function workbookOf(sheets: Record<string, string>, more: Record<string, Buffer> = {}): Buffer {
	const named = Object.entries(sheets)
	return Buffer.from(
		zipSync({
			'_rels/.rels': relations([['officeDocument', 'xl/workbook.xml']]),
			'xl/_rels/workbook.xml.rels': relations(
				named.map((_, place) => ['worksheet', `worksheets/sheet${place + 1}.xml`]),
			),
			'xl/workbook.xml': text(
				`<workbook xmlns:r="r"><sheets>${named
					.map(([name], place) => `<sheet name="${name}" r:id="rId${place + 1}"/>`)
					.join('')}</sheets></workbook>`,
			),
			...Object.fromEntries(named.map(([, xml], place) => [`xl/worksheets/sheet${place + 1}.xml`, text(xml)])),
			...more,
		}),
	)
}

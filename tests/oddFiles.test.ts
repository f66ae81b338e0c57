import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { readFileOfOrders } from '@/cli/read'

// Files of others' make, written down before they were read: each is read rightly, or refused where it cannot be.
const folder = mkdtempSync(join(tmpdir(), 'north-tally-odd-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const utf16 = (text: string) => Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(text, 'utf16le')])
const latin = (text: string) => Buffer.from(text.replace(/€/g, '\u0080'), 'latin1')

const odd: [what: string, content: string | Buffer, expected: string[]][] = [
	[
		'tabs, a remark above, a comma and quotes in a remark, rows of the order above',
		'Remarks from the yard\n\nOrder\tOrdered on\tCust No\tItem Code\tQty\tPrice\tRemark\n\nA100\t5 Oct 2026\tARDL01\tROPE-12\t10\t1.45\trush, please\n\t\t\tROPE-16\t5\t2.10\t\n\nA101\t6 Oct 2026\tBRAC01\tTHM-16\t4\t1.85\t"call first"\n',
		['A100 2026-10-05 ARDL01: ROPE-12 10 @ 1.45, ROPE-16 5 @ 2.1', 'A101 2026-10-06 BRAC01: THM-16 4 @ 1.85'],
	],
	[
		'euro signs, units within quantities, everything in quotes, a total',
		latin(
			'"Auftrags-Nr.";"Auftragsdatum";"Kundennr.";"Artikel";"Menge";"Einzelpreis";"Betrag"\n"B1";"03.10.2026";"ELSH01";"ROPE-12";"1.000 m";"1,45 €";"1.450,00 €"\n"B1";"03.10.2026";"ELSH01";"THM-16";"12 St.";"1,85 €";"22,20 €"\n"Gesamtsumme";;;;;;"1.472,20 €"\n',
		),
		['B1 2026-10-03 ELSH01 EUR: ROPE-12 1000 m @ 1.45, THM-16 12 St @ 1.85', 'total 1472.2'],
	],
	[
		'bars, French, days in words, thousands parted by narrow blanks',
		'N° commande|Date de commande|N° client|Référence article|Désignation|Quantité|PU HT|Montant HT\nF-1|3 octobre 2026|FLAM01|ROPE-12|Cordage|1\u202f200|1,45|1\u202f740,00\nF-2|4 octobre 2026|FLAM01|THM-16|Cosse|3|1,85|5,55\n',
		['F-1 2026-10-03 FLAM01: ROPE-12 1200 @ 1.45', 'F-2 2026-10-04 FLAM01: THM-16 3 @ 1.85'],
	],
	[
		'a number that a sheet has shortened',
		'Order No,Order date,Cust. No,Item,Qty\n1.23457E+11,2026-10-05,ARDL01,ROPE-12,3\n123456789012,2026-10-05,ARDL01,ROPE-12,3\n',
		['123456789012 2026-10-05 ARDL01: ROPE-12 3', 'refused 2: A sheet has shortened this number'],
	],
	[
		'totals of lines that are not what the line comes to, in currencies with decimals and without',
		'Order No,Order date,Cust. No,Item,Qty,Unit price,Currency,Line total\nD1,2026-10-05,ARDL01,ROPE-12,3,1.45,GBP,4.40\nD2,2026-10-05,ARDL01,ROPE-12,3,0.01,GBP,1.00\nD3,2026-10-05,ARDL01,ROPE-12,3,145,JPY,440\n',
		[
			'refused 2: The row says 4.40, but its quantity, price and discount come to 4.35. Correct one of them.',
			'refused 3: The row says 1.00, but its quantity, price and discount come to 0.03. Correct one of them.',
			'refused 4: The row says 440, but its quantity, price and discount come to 435. Correct one of them.',
		],
	],
	[
		'a control character within',
		'Order No,Order date,Cust. No,Item,Qty\nE1,2026-10-05,ARDL01,ROPE-12,3\nE2,2026-10-05,ARDL01,RO\u0001PE,3\n',
		['error: This is not a text file: a control character stands in line 3.'],
	],
	[
		'the end mark of old systems behind the last row',
		'Order No,Order date,Cust. No,Item,Qty\nE1,2026-10-05,ARDL01,ROPE-12,3\n\u001a',
		['E1 2026-10-05 ARDL01: ROPE-12 3'],
	],
	['nothing at all', '', ['error: The file is empty.']],
	[
		'a row with more cells than the head has names, one of them empty',
		'Order No,Order date,Cust. No,Item,Qty\nF1,2026-10-05,ARDL01,ROPE-12,3,7\nF2,2026-10-05,ARDL01,ROPE-12,4,\n',
		['F2 2026-10-05 ARDL01: ROPE-12 4', 'refused 2: The row has more cells than the head has names'],
	],
	[
		'returns in brackets, with a minus behind, with CR; discounts in money',
		'Order No,Order date,Cust. No,Item,Qty,Unit price,Discount amount,Line total\nC1,2026-10-05,ARDL01,ROPE-12,(3),1.45,0.35,4.00CR\nC2,2026-10-05,ARDL01,ROPE-12,3-,1.45,,-4.35\nC3,2026-10-05,ARDL01,ROPE-12,100,1.45,5.00,140.00\n',
		[
			'C1 2026-10-05 ARDL01: ROPE-12 -3 @ 1.45 less 0.35',
			'C2 2026-10-05 ARDL01: ROPE-12 -3 @ 1.45',
			'C3 2026-10-05 ARDL01: ROPE-12 100 @ 1.45 less 5',
		],
	],
	[
		'a row over the head that groups it',
		'Order,,,Line,,\nOrder No,Order date,Cust. No,Item,Qty,Unit price\nD1,13/10/2026,ARDL01,ROPE-12,3,1.45\n',
		['D1 2026-10-13 ARDL01: ROPE-12 3 @ 1.45'],
	],
	[
		'one order whose number, day and customer stand above its table',
		'Customer;ARDL01\nDate;05.10.2026\nOrder;E77\n\nItem;Description;Qty;Price\nROPE-12;Line;3;1,45\nTHM-16;Thimble;2;1,85\n',
		['error: No column is Order number, or Order date, or Customer number'],
	],
	[
		'UTF-16 with lines that end with a return alone',
		utf16(
			'Order No\tOrder date\tCust. No\tItem\tQty\rG1\t05/10/2026\tARDL01\tROPE-12\t3\rG2\t15/10/2026\tARDL01\tROPE-12\t4\r',
		),
		['G1 2026-10-05 ARDL01: ROPE-12 3', 'G2 2026-10-15 ARDL01: ROPE-12 4'],
	],
	[
		'prices per hundred, a discount with its sign',
		'Order No,Order date,Cust. No,Item,Qty,Unit price,Per,Disc,Total line\nH1,2026-10-05,ARDL01,PEG-M,250,12.85,100,10 %,28.91\nH2,2026-10-05,ARDL01,PEG-M,100,12.85,100,,12.85\n',
		['H1 2026-10-05 ARDL01: PEG-M 250 @ 12.85 less 10%', 'H2 2026-10-05 ARDL01: PEG-M 100 @ 12.85'],
	],
	[
		'JSON with the customer in an object, figures as texts, an order without a line',
		'{"exported":"2026-10-31","orders":[{"orderNumber":"J1","orderDate":"2026-10-05T00:00:00Z","customer":{"number":"ARDL01","name":"x"},"items":[{"itemCode":"ROPE-12","quantity":"3","unitPrice":"1.45"},{"itemCode":"THM-16","quantity":2}]},{"orderNumber":"J2","orderDate":"2026-10-06","customer":{"number":"BRAC01"},"items":[]}]}',
		['J1 2026-10-05 ARDL01: ROPE-12 3 @ 1.45, THM-16 2', 'refused 2: The order has no line'],
	],
	[
		'two columns of one name',
		'Order No,Order date,Cust. No,Item,Qty,Qty,Unit price\nK1,2026-10-05,ARDL01,ROPE-12,3,300,1.45\n',
		['error: No column is Quantity'],
	],
	[
		'lines side by side, the second empty',
		'Order No,Order date,Cust. No,Item 1,Qty 1,Price 1,Item 2,Qty 2,Price 2\nL1,2026-10-05,ARDL01,ROPE-12,3,1.45,THM-16,2,1.85\nL2,2026-10-05,ARDL01,ROPE-12,3,1.45,,,\n',
		['L1 2026-10-05 ARDL01: ROPE-12 3 @ 1.45, THM-16 2 @ 1.85', 'L2 2026-10-05 ARDL01: ROPE-12 3 @ 1.45'],
	],
	[
		'a table of fixed widths',
		'ORDER     DATE        CUST     ITEM        QTY     PRICE\n--------  ----------  -------  ----------  ---  --------\nM1        05/10/2026  ARDL01   ROPE-12       3      1.45\nM1        05/10/2026  ARDL01   THM-16        2      1.85\nM2        15/10/2026  BRAC01   ROPE-16       9      2.10\nM3        16/10/2026  CALD01   ROPE-16       1      2.10\n',
		[
			'M1 2026-10-05 ARDL01: ROPE-12 3 @ 1.45, THM-16 2 @ 1.85',
			'M2 2026-10-15 BRAC01: ROPE-16 9 @ 2.1',
			'M3 2026-10-16 CALD01: ROPE-16 1 @ 2.1',
		],
	],
	[
		'signs of currencies that say otherwise than the column',
		'Order No,Order date,Cust. No,Item,Qty,Unit price,Currency\nN1,2026-10-05,ARDL01,ROPE-12,3,€1.45,GBP\nN2,2026-10-05,ARDL01,ROPE-12,3,£1.45,GBP\nN3,2026-10-05,ARDL01,ROPE-12,3,kr 1.45,NOK\n',
		[
			'N2 2026-10-05 ARDL01 GBP: ROPE-12 3 @ 1.45',
			'N3 2026-10-05 ARDL01 NOK: ROPE-12 3 @ 1.45',
			'refused 2: It is in EUR, but the order is in GBP',
		],
	],
	[
		'a comma within a text without quotes',
		'Order No,Order date,Cust. No,Item,Description,Qty,Unit price\nP1,2026-10-05,ARDL01,ROPE-12,Line, blue,3,1.45\nP2,2026-10-05,ARDL01,ROPE-12,Line,3,1.45\n',
		['P2 2026-10-05 ARDL01: ROPE-12 3 @ 1.45', 'refused 2: The row has more cells than the head has names'],
	],
	[
		'days in four ways',
		'Order No,Order date,Cust. No,Item,Qty\nQ1,05-Oct-26,ARDL01,ROPE-12,3\nQ2,15.10.26,ARDL01,ROPE-12,3\nQ3,20261016,ARDL01,ROPE-12,3\nQ4,2026/10/17,ARDL01,ROPE-12,1\n',
		[
			'Q1 2026-10-05 ARDL01: ROPE-12 3',
			'Q2 2026-10-15 ARDL01: ROPE-12 3',
			'Q3 2026-10-16 ARDL01: ROPE-12 3',
			'Q4 2026-10-17 ARDL01: ROPE-12 1',
		],
	],
	[
		'blocks of an old report',
		`${Array.from({ length: 6 }, (_, n) => `\fPAGE ${n + 1}\nJOB ${700 + n}      FOR ARDL01     ON 05/10/2026\n   ROPE-12         3      1.45\n   THM-16          2      1.85\n`).join('')}`,
		['error: It is a text report'],
	],
]

it.each(odd)('%s', async (what, content, expected) => {
	const path = join(folder, `${what.replace(/\W+/g, '-').slice(0, 40)}.txt`)
	writeFileSync(path, content)
	const answer = await readFileOfOrders(path, {})
	const told: string[] = []
	if ('error' in answer) told.push(`error: ${answer.error.why}`)
	else {
		expect(answer.questions).toEqual([])
		for (const { number, day, customer, currency, lines } of answer.orders) {
			const said = lines.map((line) => {
				const less =
					'discountAmount' in line
						? line.discountAmount
						: line.discountPercent === '0'
							? ''
							: `${line.discountPercent}%`
				return `${line.item} ${[line.quantity, line.unit].filter(Boolean).join(' ')}${line.unitPrice === null ? '' : ` @ ${line.unitPrice}`}${less ? ` less ${less}` : ''}`
			})
			told.push(`${number} ${day} ${customer}${currency ? ` ${currency}` : ''}: ${said.join(', ')}`)
		}
		if (answer.sourceTotal !== null) told.push(`total ${answer.sourceTotal}`)
		for (const { row, reasons } of answer.refused) told.push(`refused ${row}: ${reasons[0]?.why ?? ''}`)
	}
	expect(told).toHaveLength(expected.length)
	for (const [place, words] of expected.entries()) expect(told[place]).toContain(words)
})

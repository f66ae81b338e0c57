import { notFound } from 'next/navigation'
import { Fragment } from 'react'
import { orderedColumns } from '@/app/paperParts/columns'
import { MakePaper } from '@/app/paperParts/MakePaper'
import { VersionTable } from '@/app/paperParts/VersionTable'
import { dayText } from '@/core/calendar'
import { formatMinor, formatTime } from '@/core/format'
import { readOwn } from '@/core/ownFields'
import { netOfOrder } from '@/runs/drafts/orderNets'
import { acceptedOf } from '@/store/acceptedLines'
import type { Books } from '@/store/books'
import { eventsOf } from '@/store/events'
import { linesOf, readOrder } from '@/store/orders'
import { allOwnFields } from '@/store/ownFields'
import { readPaperKind } from '@/store/paperKinds'
import { type PaperRecord, papersOf, readRecord, whyGone } from '@/store/paperRecords'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { PageHead, Section } from '@/ui/Page'
import { Table } from '@/ui/Table'
import { idOf, reading } from '../../../reading'
import { Withdraw } from './Withdraw'

/** What the rows of a sheet say once, whom their paper is for first, and the fields that each of them has. */
function sheetOf(books: Books, { body, number }: PaperRecord) {
	const fields = allOwnFields(books)
	const values = readOwn(body?.order.own ?? '{}')
	const to = body?.recipient
	const said: [string, string][] = [
		['For', number],
		['Name', to?.name ?? ''],
		['Address', (to?.address ?? '').split('\n').join(', ')],
		['Email', to?.email ?? ''],
		...fields.filter(({ of }) => of === 'sheet').map(({ key, name }): [string, string] => [name, values[key] ?? '']),
	]
	return {
		file: body?.order.source_file ?? '',
		said: said.filter(([, value]) => value !== ''),
		fields: fields.filter(({ of, key }) => of === 'row' && body?.lines.some((line) => readOwn(line.own)[key])),
	}
}

/** What was written for a kind of paper: its lines, the papers that were made of it, and what of them was accepted. */
export default async function RecordPage({ params }: { params: Promise<{ id: string }> }) {
	const { books } = await reading()
	const record = readRecord(books, idOf((await params).id))
	const kind = record && readPaperKind(books, record.kind_id)
	if (!record || !kind) notFound()
	const order = record.body?.order ?? (record.order_id === null ? null : readOrder(books, record.order_id))
	const lines = record.body?.lines ?? (record.order_id === null ? [] : linesOf(books, record.order_id))
	const gone = whyGone(books, record)
	const sheet = record.first_row === null ? null : sheetOf(books, record)
	const accepted = new Map(acceptedOf(books, record.id).map((one) => [one.line, one]))
	const papers = papersOf(books, record.id)
	return (
		<>
			<PageHead
				title={`${kind.name} ${record.number}`}
				about={`${record.body?.recipient?.name || record.customer}, ${record.first_row === null ? 'written' : 'brought in'} ${dayText(record.day)}${order && kind.base === 'priced' ? `, ${formatMinor(netOfOrder(books, order), order.currency)} ${order.currency} net` : ''}`}
			>
				{gone === '' && <Withdraw id={record.id} number={record.number} />}
				{gone === '' && kind.away_at === null && (
					<MakePaper main makeable={[{ name: kind.name, hint: 'M', record: record.id }]} />
				)}
			</PageHead>
			<div className="space-y-2 px-5 pb-3 empty:hidden">
				{gone && (
					<Notice tone="look">{`It no longer counts: ${gone}. What was issued stays, and cannot be accepted.`}</Notice>
				)}
				{record.order_id !== null && (
					<Notice tone="plain">
						{'It is '}
						<Link href={`/orders/${record.order_id}`} className="text-plum underline">
							{`order ${record.number}`}
						</Link>
						{' of the books.'}
					</Notice>
				)}
			</div>
			<Section title="Its papers" aside="Each version; what was issued is never replaced">
				<VersionTable papers={papers} none="None was made yet." />
			</Section>
			{sheet && (
				<Section
					title="What its rows say"
					aside={
						<Link href={`/bring-in/${record.file_id}`} className="text-plum underline">
							{sheet.file}
						</Link>
					}
				>
					<dl className="grid grid-cols-[180px_1fr] gap-y-1 px-5 pb-4">
						{sheet.said.map(([name, value]) => (
							<Fragment key={name}>
								<dt className="text-mute">{name}</dt>
								<dd className="figures">{value}</dd>
							</Fragment>
						))}
					</dl>
					{lines.length > 0 && (
						<Table
							label="Rows of the sheet"
							rows={lines}
							rowKey={({ source_row }) => source_row}
							columns={[
								{
									key: 'row',
									label: 'Row',
									figures: true,
									width: '70px',
									cell: ({ source_row }) => (
										<Link href={`/bring-in/${record.file_id}?row=${source_row}`} className="text-plum underline">
											{source_row}
										</Link>
									),
								},
								...(['item_code', 'description', 'quantity', 'unit'] as const)
									.filter((field) => lines.some((line) => line[field] !== ''))
									.map((field) => ({
										key: field,
										label: { item_code: 'Item', description: 'Text', quantity: 'Quantity', unit: 'Unit' }[field],
										cell: (line: (typeof lines)[number]) => line[field],
									})),
								...sheet.fields.map(({ key, name, type }) => ({
									key,
									label: name,
									figures: type === 'number',
									cell: (line: (typeof lines)[number]) => readOwn(line.own)[key] ?? '',
								})),
							]}
						/>
					)}
				</Section>
			)}
			{!sheet && (
				<Section title="Its lines">
					<Table
						label="Lines of the record"
						rows={lines.map((line, place) => ({ ...line, place }))}
						rowKey={({ place }) => place}
						columns={[
							...orderedColumns(),
							{
								key: 'price',
								label: 'Price',
								figures: true,
								width: '120px',
								cell: ({ unit_price }) => unit_price ?? '',
							},
							{
								key: 'order',
								label: 'Accepted into',
								width: '240px',
								cell: ({ place }) => {
									const one = accepted.get(place)
									return one ? (
										<>
											<Link href={`/orders/${one.order_id}`} className="figures text-plum underline">
												{one.order}
											</Link>
											<span className="text-mute">
												{one.billed && one.bill ? `, billed on ${one.bill}` : ', waits to be billed'}
											</span>
										</>
									) : (
										''
									)
								},
							},
						]}
					/>
				</Section>
			)}
			<Section title="What happened to it">
				<ul className="space-y-1 px-5 pb-4">
					{eventsOf(books, 'paper record', record.id).map(({ id, at, clerk, act, detail }) => (
						<li key={id}>
							<span className="figures text-mute">{formatTime(at)}</span> {clerk} {act}
							{detail && <span className="text-mute">: {detail}</span>}
						</li>
					))}
				</ul>
			</Section>
		</>
	)
}

import { notFound } from 'next/navigation'
import { encodings } from '@/intake/formats/delimited/encodings'
import { printedSample, report } from '@/intake/formats/report'
import { type Marks, marksSchema } from '@/intake/formats/report/marks'
import { readingSchema } from '@/intake/reading'
import { homeCurrency } from '@/store/company'
import { readFile, sourceOfFile } from '@/store/files'
import { allOwnFields } from '@/store/ownFields'
import { buttonLook } from '@/ui/Button'
import Link from '@/ui/Link'
import { Empty, PageHead } from '@/ui/Page'
import { idOf, reading as readingOf } from '../../../reading'
import { Marking } from './Marking'

type Props = { params: Promise<{ id: string }>; searchParams: Promise<{ letters?: string }> }

/** Letters of a report that are in view while it is marked; all of it is read afterwards. */
const inView = 1_000_000

export default async function MarkPage({ params, searchParams }: Props) {
	const { books } = await readingOf()
	const id = idOf((await params).id)
	const file = readFile(books, id)
	if (!file?.look || file.state === 'dropped' || file.state === 'arriving') notFound()
	const reading = readingSchema.parse(JSON.parse(file.reading))
	if (reading.format !== 'report')
		return (
			<>
				<PageHead title={file.name}>
					<Link href={`/bring-in/${id}`} className={buttonLook('main')}>
						Back to the file
					</Link>
				</PageHead>
				<Empty title="This file is not read as a text report">
					<p>Its columns are matched on its own page. What it is read as can be changed there too.</p>
				</Empty>
			</>
		)
	const source = sourceOfFile(books, file)
	const kept = marksSchema.safeParse(reading.settings)
	const marks: Marks = kept.success ? kept.data : await report.propose(source)
	const { letters } = await searchParams
	const shown = encodings.find((one) => one === letters) ?? marks.encoding
	const { text, whole } = printedSample(source, shown, inView)
	const ownFields = allOwnFields(books)
	return (
		<Marking
			id={id}
			name={file.name}
			text={text}
			whole={whole}
			shown={shown}
			first={marks}
			was={JSON.stringify(reading.settings)}
			kind={reading.kind}
			ownFields={ownFields}
			home={homeCurrency(books)}
			accepted={file.state === 'accepted'}
		/>
	)
}

import { notFound } from 'next/navigation'
import { formatNamed } from '@/intake/formats'
import { fieldsFor } from '@/intake/kinds'
import { readingSchema } from '@/intake/reading'
import { allOwnFields } from '@/store/ownFields'
import { readReader } from '@/store/readers'
import { buttonLook } from '@/ui/Button'
import Link from '@/ui/Link'
import { PageHead } from '@/ui/Page'
import { idOf, reading as readingOf } from '../../../reading'
import { ReaderForm } from './ReaderForm'

/** A reader by itself: what each of its columns is, and how it reads days, figures and what is not there. */
export default async function ReaderPage({ params }: { params: Promise<{ id: string }> }) {
	const { books } = await readingOf()
	const reader = readReader(books, idOf((await params).id))
	if (!reader || reader.away_at !== null) notFound()
	const reading = readingSchema.parse(JSON.parse(reader.body))
	const fields = fieldsFor(reading.kind, allOwnFields(books)).map(({ key, label, needed }) => ({ key, label, needed }))
	return (
		<>
			<PageHead
				title={reader.name}
				about={`reads ${reading.kind} from ${formatNamed(reading.format)?.words ?? reading.format}; version ${reader.version}, by ${reader.made_by}`}
			>
				<Link href="/bring-in" className={buttonLook()}>
					All readers
				</Link>
			</PageHead>
			<ReaderForm
				key={reader.version}
				id={reader.id}
				name={reader.name}
				version={reader.version}
				reading={reading}
				fields={fields}
			/>
		</>
	)
}

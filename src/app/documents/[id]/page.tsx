import Link from 'next/link'
import { notFound } from 'next/navigation'
import { dayText } from '@/core/calendar'
import { formatMinor } from '@/core/format'
import { readDocument } from '@/store/documents'
import { buttonLook } from '@/ui/Button'
import { PageHead } from '@/ui/Page'
import { books } from '../../books'
import { DocumentPanel } from './DocumentPanel'

/** A document's own page. */
export default async function DocumentPage({ params }: { params: Promise<{ id: string }> }) {
	const document = readDocument(books(), Number((await params).id))
	if (!document) notFound()
	const { number, customer_name, total, currency, day, due_day, run_id } = document
	return (
		<div className="flex h-full min-h-0 flex-col">
			<PageHead
				title={number ? `Invoice ${number}` : 'Draft invoice'}
				about={`${customer_name}, ${formatMinor(total, currency)} ${currency}, of ${dayText(day)}, due ${dayText(due_day)}`}
			>
				<Link href={`/runs/${run_id}?doc=${document.id}`} className={buttonLook()}>
					{`Run ${run_id}`}
				</Link>
			</PageHead>
			<DocumentPanel id={document.id} />
		</div>
	)
}

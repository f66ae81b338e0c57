import type { PaperFacts } from '@/runs/papers/facts'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'

/** What is to be known of a paper: what it was made from, its other versions, what of it was accepted, whether it was filed alone. */
export function PaperNotices({
	record,
	gone,
	others,
	accepted,
	accept,
	place,
	filed,
}: PaperFacts & { filed: boolean }) {
	const orders = [...new Map(accepted.map((one) => [one.order_id, one])).values()]
	const left = accept ? accept.lines.filter(({ order }) => order === null).length : 0
	return (
		<>
			<Notice tone="plain">
				{'Made from '}
				<Link href={record.path} className="text-plum underline">
					{record.name}
				</Link>
				{'.'}
				{others.length > 0 && ' Other versions: '}
				{others.map(({ document_id, number, version }, index) => (
					<span key={document_id}>
						{index > 0 && ', '}
						<Link href={`/documents/${document_id}`} className="figures text-plum underline">
							{number ?? 'a draft'}
						</Link>
						{` (version ${version})`}
					</span>
				))}
				{filed && place === 'filed' && ' It is filed, and was not sent.'}
			</Notice>
			{gone && <Notice tone="look">{`What it was made from no longer counts: ${gone}.`}</Notice>}
			{orders.map((one) => {
				const count = accepted.filter(({ order_id }) => order_id === one.order_id).length
				return (
					<Notice key={one.order_id} tone="tie">
						{`${count === (accept?.lines.length ?? 0) ? 'Accepted' : `${count} of its lines accepted`} by ${one.clerk} into `}
						<Link href={`/orders/${one.order_id}`} className="text-plum underline">
							{`order ${one.order}`}
						</Link>
						{one.billed === 1 && one.bill_id ? (
							<>
								{', billed on '}
								<Link href={`/documents/${one.bill_id}`} className="figures text-plum underline">
									{one.bill}
								</Link>
								{'.'}
							</>
						) : (
							', which waits to be billed.'
						)}
						{one.reason && ` After its last day: ${one.reason}.`}
					</Notice>
				)
			})}
			{accept && accept.why === '' && left > 0 && orders.length > 0 && (
				<Notice tone="plain">{`${left} of its lines can still be accepted.`}</Notice>
			)}
		</>
	)
}

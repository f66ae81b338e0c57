import type { Metadata } from 'next'
import Link from 'next/link'
import { kindName } from '@/core/document'
import { type FieldValues, fieldValues, type LetterKind } from '@/core/letter'
import { letterFor } from '@/runs/send'
import { latestOfKind } from '@/store/documents'
import { PageHead } from '@/ui/Page'
import { books } from '../books'
import { LetterForm } from './LetterForm'

export const metadata: Metadata = { title: 'Letters' }

const kinds: LetterKind[] = ['invoice', 'credit-note']
const invented: FieldValues = {
	customer: 'a customer',
	number: 'its number',
	amount: 'its amount',
	'due date': 'its due date',
	firm: 'your firm',
	'your order': 'their order',
	'credited invoice': 'the invoice it credits',
}

export default async function LettersPage({ searchParams }: { searchParams: Promise<{ kind?: string }> }) {
	const { kind: wanted } = await searchParams
	const kind = kinds.find((known) => known === wanted) ?? 'invoice'
	const own = books()
	const content = latestOfKind(own, kind)
	return (
		<>
			<PageHead title="Letters" about="The text that goes with each document">
				{kinds.map((each) => (
					<Link
						key={each}
						href={`/letters?kind=${each}`}
						aria-current={each === kind ? 'page' : undefined}
						className={`rounded-sm border px-2 py-0.5 ${each === kind ? 'border-ink bg-sheet font-semibold' : 'border-rule hover:border-mute'}`}
					>
						{kindName[each]}
					</Link>
				))}
			</PageHead>
			<LetterForm
				key={kind}
				kind={kind}
				letter={letterFor(own, kind)}
				values={content ? fieldValues(content) : invented}
				real={content !== null}
			/>
		</>
	)
}

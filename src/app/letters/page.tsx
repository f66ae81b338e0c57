import type { Metadata } from 'next'
import { fieldValues, firstInvoiceLetter } from '@/core/letter'
import { latestInvoice } from '@/store/documents'
import { readLetter } from '@/store/messages'
import { PageHead } from '@/ui/Page'
import { books } from '../books'
import { LetterForm } from './LetterForm'

export const metadata: Metadata = { title: 'Letters' }

export default function LettersPage() {
	const own = books()
	const content = latestInvoice(own)
	const values = content
		? fieldValues(content)
		: {
				customer: 'a customer',
				number: 'its number',
				amount: 'its amount',
				'due date': 'its due date',
				firm: 'your firm',
				'your order': 'their order',
			}
	return (
		<>
			<PageHead title="Letters" about="The text that goes with each invoice" />
			<LetterForm letter={readLetter(own, 'invoice') ?? firstInvoiceLetter} values={values} real={content !== null} />
		</>
	)
}

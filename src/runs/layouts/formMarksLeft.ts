import { understand } from '@/forms/marks'
import { vocabularyOf } from '@/forms/offers'
import { baseOf, type KindName } from '@/kinds'
import { fieldsOf } from '@/layout/values'
import type { Books } from '@/store/books'
import { formAnswers, formBody, formsOfLayout } from '@/store/forms'
import { allOwnFields } from '@/store/ownFields'

/** The fields that a form of a kind can be mapped to, the firm's own among them, with what they are called. */
export const vocabularyFor = (books: Books, kind: KindName) =>
	vocabularyOf(fieldsOf({ reckoned: [] }, allOwnFields(books)).values(), baseOf(kind))

/** Marks of a layout's form that say nothing yet and still stand on its paper as they were written. */
export function marksLeft(books: Books, layout: number, body: string): string[] {
	const form = formsOfLayout(books, layout).find(({ made_sha256 }) => made_sha256 !== null)
	const read = form && formBody(books, form.id)
	if (!form || !read) return []
	const answers = formAnswers(books, form.id)
	const { marks } = understand(read.form, answers, vocabularyFor(books, form.kind))
	return marks
		.filter(
			({ key, shown }) => !answers.marks[key] && shown !== '' && body.includes(JSON.stringify(shown).slice(1, -1)),
		)
		.map(({ shown }) => shown)
}

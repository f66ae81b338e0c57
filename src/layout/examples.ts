import type { OwnField } from '@/core/ownFields'
import { hasField } from './fields'
import type { Content } from './fieldTypes'
import { languagesFor } from './languages'
import type { Layout } from './schema'
import { exampleOf, fieldsOf } from './values'

/** What each field of a layout's kind of paper is on a paper, written as it would be; of lines, on the first. */
export function examplesOf(
	layout: Layout,
	content: Content,
	ownFields: readonly OwnField[] = [],
): Record<string, string> {
	const at = { content, languages: languagesFor(content), place: 0, row: 1, page: 1, pages: 1 }
	const examples: Record<string, string> = {}
	for (const field of fieldsOf(layout, ownFields).values())
		if (hasField(field, layout.kind)) examples[field.key] = exampleOf(field, at).split('\n').join(', ')
	return examples
}

import { createElement } from 'react'
import { renderToStaticMarkup } from 'react-dom/server'
import { expect, test } from 'vitest'
import { MakingContext } from '@/app/layoutParts/making'
import { fieldsByKey } from '@/layout/fields'
import { looksOf } from '@/layout/looks'
import { pieceTypes } from '@/layout/pieceTypes'
import type { PieceType } from '@/layout/schema'
import { PieceForm } from './PieceForm'

const layout = looksOf('invoice')[0]

test.each(Object.keys(pieceTypes) as PieceType[])(
	'the settings of a piece of type %s can be opened, each of them named',
	(type) => {
		if (!layout) throw new Error('no look')
		const piece = pieceTypes[type].fresh('new', layout)
		const form = createElement(PieceForm, { piece, put: () => {} })
		const shown = renderToStaticMarkup(
			createElement(MakingContext, { value: { layout, fields: fieldsByKey, examples: {}, change: () => {} } }, form),
		)
		// What begins a page has none.
		expect(shown !== '').toBe(type !== 'turn')
		const inputs = shown.match(/<(input|select)\b(?![^>]*type="file")/g)?.length ?? 0
		expect(shown.match(/<label\b|aria-label=/g)?.length ?? 0).toBeGreaterThanOrEqual(inputs)
	},
)

'use client'
import { useMaking } from '@/app/layoutParts/making'
import type { Language } from '@/layout/languages'
import { languageNames } from '@/layout/languages'
import type { Leaf } from '@/layout/schema'
import { Rich } from './Rich'

type Words = Extract<Leaf, { type: 'words' }>

/** The words of a piece, written where they stand on the paper, in the language that this paper is in. */
export function WriteHere({
	piece,
	languages,
	onChange,
	onDone,
}: {
	piece: Words
	/** Languages of the paper in view, in the order in which its words are looked for. */
	languages: readonly Language[]
	onChange: (says: Words['says']) => void
	onDone: () => void
}) {
	const { layout } = useMaking()
	const written = Object.keys(piece.says) as Language[]
	const language = languages.find((one) => piece.says[one]) ?? written[0] ?? 'en'
	const color = layout.palette.find(({ name }) => name === (piece.color ?? layout.text.color))?.color ?? '000000'
	return (
		// biome-ignore lint/a11y/noStaticElementInteractions: Escape ends the writing, as everywhere
		<div
			onKeyDown={(event) => {
				if (event.key !== 'Escape') return
				event.stopPropagation()
				onDone()
			}}
		>
			<Rich
				label={`Words in ${languageNames[language]}, on the paper`}
				paragraphs={piece.says[language] ?? []}
				onChange={(paragraphs) => onChange({ ...piece.says, [language]: paragraphs })}
				onPaper={{
					size: piece.size ?? layout.text.size,
					color,
					bold: piece.bold === true,
					align: piece.align ?? 'left',
				}}
			/>
		</div>
	)
}

'use client'
import { useState } from 'react'
import { type Form, type Inline, paragraphsIn, stacksOf, textOf } from '@/forms/form'
import type { Point } from '@/forms/points'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'

type Props = { open: boolean; form: Form; onPoint: (point: Point) => void; onClose: () => void }

/** The form's text, of which words are pointed at: the first of them, then the last. */
export function PointAt({ open, form, onPoint, onClose }: Props) {
	const [from, setFrom] = useState<{ paragraph: string; id: string; from: number; to: number } | null>(null)
	const paragraphs = stacksOf(form)
		.flatMap(({ blocks }) => paragraphsIn(blocks))
		.filter(({ inlines }) => inlines.some((inline) => inline.is === 'text' && inline.text.trim() !== ''))
	const close = () => {
		setFrom(null)
		onClose()
	}
	return (
		<Ask open={open} onClose={close} title="Which words stand where a value is to stand?" wide>
			<p className="mb-2 text-sm text-mute">
				Choose the first word, then the last one where there are several, and make a mark of them.
			</p>
			<div className="scrolls max-h-[56vh] border border-rule bg-white px-3 py-2">
				{paragraphs.map(({ id, inlines }) => {
					const text = textOf(inlines)
					return (
						<p key={id} className="mb-1.5">
							{wordsOf(inlines).map((match) => {
								const [start, end] = [match.from, match.from + match.word.length]
								if (match.mark) return <span key={start} className="text-mute">{`${match.word} `}</span>
								const within = from?.id === id && start >= from.from && end <= from.to
								return (
									<span key={start}>
										<button
											type="button"
											aria-pressed={within}
											className="rounded-sm px-0.5 hover:bg-plum-wash aria-pressed:bg-plum aria-pressed:text-sheet"
											onClick={() =>
												setFrom(
													from?.id === id
														? { ...from, from: Math.min(from.from, start), to: Math.max(from.to, end) }
														: { paragraph: text, id, from: start, to: end },
												)
											}
										>
											{match.word}
										</button>{' '}
									</span>
								)
							})}
						</p>
					)
				})}
			</div>
			<div className="mt-3 flex items-center gap-2">
				<Button
					kind="main"
					disabled={!from}
					onClick={() => {
						if (from) onPoint({ paragraph: from.paragraph, from: from.from, to: trimmedEnd(from) })
						setFrom(null)
					}}
				>
					{from ? `Make a mark of “${from.paragraph.slice(from.from, trimmedEnd(from)).slice(0, 40)}”` : 'Make a mark'}
				</Button>
				<Button disabled={!from} onClick={() => setFrom(null)}>
					Begin again
				</Button>
			</div>
		</Ask>
	)
}

/** The words of a paragraph; those of marks cannot be pointed at. */
function wordsOf(inlines: readonly Inline[]): { word: string; from: number; mark: boolean }[] {
	let at = 0
	return inlines.flatMap((inline) => {
		const text = textOf([inline])
		const from = at
		at += text.length
		return [...text.matchAll(/\S+/g)].map((match) => ({
			word: match[0],
			from: from + (match.index ?? 0),
			mark: inline.is !== 'text',
		}))
	})
}

/** A stop or comma at the end is none of the value. */
const trimmedEnd = ({ paragraph, from, to }: { paragraph: string; from: number; to: number }): number => {
	const words = paragraph.slice(from, to)
	return from + words.replace(/[.,;:]+$/, '').length || to
}

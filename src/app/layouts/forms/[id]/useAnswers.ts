'use client'
import { useMemo, useRef, useState } from 'react'
import { sayOfForm } from '@/app/acts/forms'
import type { Answers, PlaceholderAnswer, Source } from '@/forms/marks'
import type { Point } from '@/forms/points'

export type Said =
	| { about: 'marks'; key: string; answer: PlaceholderAnswer | null }
	| { about: 'rows'; key: string; answer: Source | 'once' | null }
	| { about: 'apart'; key: string; answer: boolean | null }
	| { about: 'points'; key: string; answer: Point | null }

const answerOf = (answers: Answers, { about, key }: Said) => answers[about][key] ?? null
/** Answers with others laid over them; null takes one back. */
function laid(answers: Answers, said: readonly Said[]): Answers {
	const after = {
		marks: { ...answers.marks },
		rows: { ...answers.rows },
		apart: { ...answers.apart },
		points: { ...answers.points },
	}
	for (const { about, key, answer } of said) {
		delete after[about][key]
		if (answer !== null) Object.assign(after[about], { [key]: answer })
	}
	return after
}

/** What was said of a form: shown at once, kept one act after the other, and taken back act by act. */
export function useAnswers(form: number, kept: Answers, onTrouble: (words: string) => void) {
	const [answers, setAnswers] = useState(kept)
	const [past, setPast] = useState<Said[][]>([])
	const [waiting, setWaiting] = useState(0)
	const now = useRef(kept)
	/** As the books have it, so far as this page knows. */
	const books = useRef(kept)
	const line = useRef<Promise<void>>(Promise.resolve())
	return useMemo(() => {
		const put = (said: readonly Said[]) => {
			now.current = laid(now.current, said)
			setAnswers(now.current)
			setWaiting((count) => count + 1)
			line.current = line.current.then(async () => {
				const changes = said.map((one) => ({ ...one, was: answerOf(books.current, one) }))
				try {
					const outcome = await sayOfForm(form, changes)
					if (outcome.ok) books.current = laid(books.current, said)
					else onTrouble(outcome.message)
				} catch {
					onTrouble('The program does not answer just now. What you said last is not kept; say it again.')
				}
				setWaiting((count) => count - 1)
			})
		}
		return {
			answers,
			past,
			busy: waiting > 0,
			/** Waits until all is kept. */
			settled: () => line.current,
			say: (said: readonly Said[]) => {
				const before = said.map((one) => ({ ...one, answer: answerOf(now.current, one) }) as Said)
				setPast((all) => [...all, before])
				put(said)
			},
			undo: () => {
				const last = past.at(-1)
				if (!last) return
				setPast(past.slice(0, -1))
				put(last)
			},
		}
	}, [answers, past, waiting, form, onTrouble])
}

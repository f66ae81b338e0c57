'use client'
import { useState } from 'react'
import { setLetter } from '@/app/acts'
import { type FieldValues, fillLetter, mergeFields } from '@/core/letter'
import { TextArea, TextField } from '@/ui/Field'
import { SavedForm } from '@/ui/SavedForm'

type Props = { kind: string; letter: { subject: string; body: string }; values: FieldValues; real: boolean }

/** The letter's subject and text, with its fields to put in, and beside it what a customer would read. */
export function LetterForm({ kind, letter, values, real }: Props) {
	const [subject, setSubject] = useState(letter.subject)
	const [body, setBody] = useState(letter.body)
	const put = (field: string) => {
		const area = document.getElementById('letter-body')
		const at = area instanceof HTMLTextAreaElement ? area.selectionStart : body.length
		setBody(`${body.slice(0, at)}{${field}}${body.slice(at)}`)
		area?.focus()
	}
	return (
		<div className="grid grid-cols-2 border-t border-rule">
			<div className="px-5 py-4">
				<SavedForm save={setLetter} label="Save the letter" saved="Saved. Messages written from here on carry it.">
					<input type="hidden" name="kind" value={kind} />
					<TextField
						label="Subject"
						name="subject"
						value={subject}
						onChange={(event) => setSubject(event.target.value)}
						required
					/>
					<fieldset className="flex flex-wrap items-center gap-1.5">
						<legend className="mb-1 text-sm font-semibold">Put in at the cursor</legend>
						{mergeFields.map((field) => (
							<button
								key={field}
								type="button"
								onClick={() => put(field)}
								className="rounded-sm border border-rule bg-plum-wash px-1.5 text-sm text-plum hover:border-plum"
							>
								{field}
							</button>
						))}
					</fieldset>
					<TextArea
						id="letter-body"
						label="Text"
						name="body"
						rows={16}
						value={body}
						onChange={(event) => setBody(event.target.value)}
						required
					/>
				</SavedForm>
			</div>
			<section aria-label="As it would be read" className="border-l border-rule bg-sheet px-5 py-4">
				<p className="mb-3 text-sm text-mute">
					{real ? 'As the customer of the latest one would read it' : 'As a customer would read it'}
				</p>
				<p className="border-b border-rule pb-2 font-semibold">{fillLetter(subject, values)}</p>
				<p className="mt-3 whitespace-pre-wrap">{fillLetter(body, values)}</p>
			</section>
		</div>
	)
}

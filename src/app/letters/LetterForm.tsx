'use client'
import { useRouter } from 'next/navigation'
import { useRef, useState } from 'react'
import { setLetter } from '@/app/acts/firm'
import { formatTime } from '@/core/format'
import { type FieldValues, fieldsIn, fillLetter, type MergeField, mergeFields } from '@/core/letter'
import { ChipText } from '@/ui/ChipText'
import { Choice } from '@/ui/Field'
import { MessageBody } from '@/ui/MessageBody'
import { Notice } from '@/ui/Notice'
import { SavedForm } from '@/ui/SavedForm'

type Letter = { subject: string; body: string }
type Props = {
	kind: string
	letter: Letter
	values: FieldValues
	/** Customers whose latest document of the kind the letter can be shown with. */
	customers: { id: number; name: string }[]
	shown: number | null
	/** For each field, the customers for whom it would be empty. */
	empty: Partial<Record<MergeField, string[]>>
	versions: (Letter & { id: number; at: string; clerk: string })[]
}

/** The letter's subject and text with its fields as chips, and beside it what a customer would read. */
export function LetterForm({ kind, letter, values, customers, shown, empty, versions }: Props) {
	// What it said as it was opened: what another kept since is not overwritten.
	const [opened, setOpened] = useState(`${letter.subject}\n${letter.body}`)
	const [base, setBase] = useState(letter)
	const [subject, setSubject] = useState(letter.subject)
	const [body, setBody] = useState(letter.body)
	const puts = useRef<Record<'subject' | 'body', (field: string) => void>>({ subject: () => {}, body: () => {} })
	const last = useRef<'subject' | 'body'>('body')
	const router = useRouter()
	const lacking = fieldsIn(`${subject} ${body}`).flatMap((field) => {
		const names = empty[field] ?? []
		return names.length > 0 ? [{ field, names }] : []
	})
	return (
		<div className="grid grid-cols-2 border-t border-rule">
			<div className="px-5 py-4">
				<SavedForm
					save={async (form) => {
						const outcome = await setLetter(form)
						if (outcome.ok) setOpened(`${form.get('subject')}\n${form.get('body')}`.trim())
						return outcome
					}}
					label="Save the letter"
					saved="Saved. Messages written from here on carry it."
				>
					<input type="hidden" name="kind" value={kind} />
					<input type="hidden" name="seen" value={opened} />
					<ChipText
						label="Subject"
						name="subject"
						initial={base.subject}
						fields={mergeFields}
						onText={setSubject}
						onReady={(put) => {
							puts.current.subject = put
						}}
						onFocus={() => {
							last.current = 'subject'
						}}
					/>
					<fieldset className="flex flex-wrap items-center gap-1.5">
						<legend className="mb-1 text-sm font-semibold">Put in at the cursor</legend>
						{mergeFields.map((field) => (
							<button
								key={field}
								type="button"
								// The cursor stays where it is.
								onMouseDown={(event) => event.preventDefault()}
								onClick={() => puts.current[last.current](field)}
								className="rounded-sm border border-rule bg-plum-wash px-1.5 text-sm text-plum hover:border-plum"
							>
								{field}
							</button>
						))}
					</fieldset>
					<ChipText
						label="Text"
						name="body"
						initial={base.body}
						fields={mergeFields}
						lines={14}
						onText={setBody}
						onReady={(put) => {
							puts.current.body = put
						}}
						onFocus={() => {
							last.current = 'body'
						}}
					/>
				</SavedForm>
				{versions.length > 0 && (
					<details className="mt-4 text-sm">
						<summary className="text-plum">
							{versions.length === 1 ? 'One earlier version' : `${versions.length} earlier versions`}
						</summary>
						<ul>
							{versions.map((version) => (
								<li key={version.id} className="flex gap-3 border-b border-rule-soft py-1">
									<span className="figures text-mute">{`until ${formatTime(version.at)}`}</span>
									<span className="min-w-0 flex-1 truncate">{version.subject}</span>
									<button
										type="button"
										className="text-plum hover:underline"
										onClick={() => {
											setBase({ subject: version.subject, body: version.body })
											setSubject(version.subject)
											setBody(version.body)
										}}
									>
										Take it up again
									</button>
								</li>
							))}
						</ul>
					</details>
				)}
			</div>
			<section aria-label="As it would be read" className="border-l border-rule bg-sheet px-5 py-4">
				{customers.length > 0 ? (
					<div className="mb-3 max-w-80">
						<Choice
							label="As it would be read by"
							value={String(shown ?? '')}
							options={customers.map(({ id, name }): [string, string] => [String(id), name])}
							onChange={(event) => router.replace(`/letters?kind=${kind}&customer=${event.target.value}`)}
						/>
					</div>
				) : (
					<p className="mb-3 text-sm text-mute">As a customer would read it</p>
				)}
				{lacking.map(({ field, names }) => (
					<div key={field} className="mb-2">
						<Notice tone="look">
							{`“${field}” is empty for ${names.slice(0, 4).join(', ')}${names.length > 4 ? ` and ${names.length - 4} more` : ''}.`}
						</Notice>
					</div>
				))}
				<p className="border-b border-rule pb-2 font-semibold">{fillLetter(subject, values)}</p>
				<div className="mt-3">
					<MessageBody body={fillLetter(body, values)} />
				</div>
			</section>
		</div>
	)
}

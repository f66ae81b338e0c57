'use client'
import { useState, useTransition } from 'react'
import { filesAway, keepFor } from '@/app/acts/papers'
import { capital } from '@/core/wording'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { inputLook, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { SavedForm } from '@/ui/SavedForm'

type Kept = { kind: string; nouns: string; years: number | null; past: number }

/** How long trial prints and the files of issued papers are kept; what is over goes by a person's act alone. */
export function KeepForm({ trialDays, kinds }: { trialDays: number; kinds: Kept[] }) {
	const [asking, setAsking] = useState<Kept | null>(null)
	const [said, setSaid] = useState<{ ok: boolean; words: string } | null>(null)
	const [busy, start] = useTransition()
	return (
		<div className="max-w-4xl px-5 pb-5">
			<SavedForm save={keepFor} label="Keep so" saved="Saved.">
				<div className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-4">
					<TextField
						label="Trial prints, days"
						name="trialDays"
						type="number"
						min={1}
						max={365}
						defaultValue={trialDays}
						className="figures"
						help="Then they go by themselves; their run says so"
					/>
					{kinds.map(({ kind, nouns, years }) => (
						<TextField
							key={kind}
							label={`${capital(nouns)}, years`}
							name={`years ${kind}`}
							type="number"
							min={1}
							max={100}
							defaultValue={years ?? ''}
							placeholder="for good"
							className="figures"
						/>
					))}
				</div>
			</SavedForm>
			{kinds
				.filter(({ past }) => past > 0)
				.map((one) => (
					<p key={one.kind} className="mt-3 flex items-center gap-3">
						{`The years of ${one.past} ${one.nouns} are over.`}
						<Button onClick={() => setAsking(one)}>{`Take the files of ${one.past} ${one.nouns} away`}</Button>
					</p>
				))}
			{said && <Notice tone={said.ok ? 'tie' : 'stop'}>{said.words}</Notice>}
			<Ask
				open={asking !== null}
				onClose={() => setAsking(null)}
				title={`Take the files of ${asking?.past} ${asking?.nouns} away?`}
			>
				<form
					className="space-y-3"
					onSubmit={(event) => {
						event.preventDefault()
						if (!asking) return
						const reason = String(new FormData(event.currentTarget).get('reason') ?? '')
						start(async () => {
							const outcome = await answered(filesAway(asking.kind, asking.past, reason))
							setSaid({ ok: outcome.ok, words: outcome.ok ? (outcome.words ?? '') : outcome.message })
							setAsking(null)
						})
					}}
				>
					<p className="text-mute">
						Their PDFs, and what was made beside them, are removed from the disk for good. What they said, their numbers
						and the sent log stay in the books.
					</p>
					<label className="block">
						<span className="mb-1 block text-sm font-semibold">Why</span>
						<input name="reason" required className={inputLook} />
					</label>
					<div className="flex gap-2">
						<Button kind="grave" type="submit" disabled={busy}>
							Take them away
						</Button>
						<Button onClick={() => setAsking(null)}>Not now</Button>
					</div>
				</form>
			</Ask>
		</div>
	)
}

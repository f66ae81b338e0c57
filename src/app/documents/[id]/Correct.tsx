'use client'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { credit, makeVoid } from '@/app/acts/document'
import { ChangeAsk } from '@/app/documentPanel/ChangeAsk'
import { usePanel } from '@/app/documentPanel/Panel'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { inputLook, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

type Line = { description: string; unit: string; left: string }
type Props = {
	id: number
	number: string
	lines: Line[]
	freight: boolean
	mayCredit: boolean
	mayVoid: boolean
	mayRevise: boolean
	/** What of its customer's particulars changed since it was issued, in words. */
	moved: string
	/** Whether it bills orders. */
	bills: boolean
	/** What was applied to it, in words; empty for nothing. */
	settled: string
}

/** The ways to correct an issued document, which itself never changes: a credit note; a revision or making it void while it has reached nobody. */
export function Correct({ id, number, lines, freight, mayCredit, mayVoid, mayRevise, moved, bills, settled }: Props) {
	const [asking, setAsking] = useState<'credit' | 'void' | 'revise' | null>(null)
	const view = usePanel(mayRevise ? id : null, '')
	const [trouble, setTrouble] = useState('')
	const router = useRouter()
	const leave = () => {
		setAsking(null)
		setTrouble('')
	}
	const startCredit = async (form: FormData) => {
		const outcome = await answered(
			credit(id, {
				lines: lines.map((_, line) => ({ line, quantity: String(form.get(`quantity${line}`) || '0') })),
				freight: form.get('freight') === 'on',
				reason: String(form.get('reason') ?? ''),
			}),
		)
		if (outcome.ok && outcome.id) router.push(`/runs/${outcome.id}`)
		else if (!outcome.ok) setTrouble(outcome.message)
	}
	const startVoid = async (form: FormData) => {
		const outcome = await answered(makeVoid(id, String(form.get('reason') ?? '')))
		if (outcome.ok) leave()
		else setTrouble(outcome.message)
	}
	const keep = (save: (form: FormData) => Promise<void>) => (event: React.FormEvent<HTMLFormElement>) => {
		event.preventDefault()
		void save(new FormData(event.currentTarget))
	}
	return (
		<>
			{mayRevise && <Button onClick={() => setAsking('revise')}>Revise</Button>}
			{view && (
				<ChangeAsk
					open={asking === 'revise'}
					view={view}
					onClose={leave}
					moved={moved}
					onRevised={(revision) => router.push(`/documents/${revision}`)}
				/>
			)}
			{mayVoid && <Button onClick={() => setAsking('void')}>Make void</Button>}
			{mayCredit && <Button onClick={() => setAsking('credit')}>Credit</Button>}
			<Ask open={asking === 'credit'} onClose={leave} title={`Credit ${number}`} wide>
				<form className="space-y-3" onSubmit={keep(startCredit)}>
					<p className="text-mute">
						How much of each line is credited; all that is left of it stands there already. The invoice stays as it is.
					</p>
					<div className="scrolls -m-1 max-h-72 space-y-1.5 p-1">
						{lines.map(({ description, unit, left }, line) => (
							<div key={line} className="grid grid-cols-[minmax(0,1fr)_100px_60px] items-center gap-2">
								<span className="truncate">{description}</span>
								<input
									name={`quantity${line}`}
									defaultValue={left}
									aria-label={`Quantity to credit of line ${line + 1}`}
									className={`${inputLook} figures text-right`}
								/>
								<span className="text-mute">{unit}</span>
							</div>
						))}
					</div>
					{freight && (
						<label className="flex items-center gap-2">
							<input type="checkbox" name="freight" defaultChecked className="size-4 accent-plum" /> Freight too
						</label>
					)}
					<TextField label="Why" name="reason" required />
					{trouble && <Notice tone="stop">{trouble}</Notice>}
					<div className="flex gap-2">
						<Button kind="main" type="submit">
							Draft the credit note
						</Button>
						<Button onClick={leave}>Not now</Button>
					</div>
				</form>
			</Ask>
			<Ask open={asking === 'void'} onClose={leave} title={`Make ${number} void?`}>
				<form className="space-y-3" onSubmit={keep(startVoid)}>
					<p className="text-mute">
						{`It has reached nobody yet. The number stays used, with the reason${bills ? '; its orders wait again to be billed' : ''}. This cannot be undone.`}
					</p>
					{settled && (
						<Notice tone="look">{`${settled} It is unapplied again, for the account to say where it goes.`}</Notice>
					)}
					<TextField label="Why" name="reason" required />
					{trouble && <Notice tone="stop">{trouble}</Notice>}
					<div className="flex gap-2">
						<Button kind="grave" type="submit">
							{`Make ${number} void`}
						</Button>
						<Button onClick={leave}>Not now</Button>
					</div>
				</form>
			</Ask>
		</>
	)
}

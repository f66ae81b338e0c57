'use client'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { importLayout, newLayout } from '@/app/acts/layouts'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'
import { Choice, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

type Kind = { kind: string; name: string; looks: string[]; layouts: { id: number; name: string }[] }

/** Asks for the kind of paper, what it begins from, and a name. */
export function NewLayout({ kinds }: { kinds: Kind[] }) {
	const [open, setOpen] = useState(false)
	const [kind, setKind] = useState(kinds[0]?.kind ?? '')
	const [from, setFrom] = useState(`look ${kinds[0]?.looks[0]}`)
	const [trouble, setTrouble] = useState('')
	const router = useRouter()
	const chosen = kinds.find((one) => one.kind === kind)
	const begin = async (form: FormData) => {
		const [how, ...rest] = from.split(' ')
		const base =
			how === 'look'
				? { look: rest.join(' ') }
				: how === 'layout'
					? { layout: Number(rest[0]) }
					: { nothing: true as const }
		const outcome = await newLayout(kind, String(form.get('name') ?? ''), base)
		if (outcome.ok) router.push(`/layouts/${outcome.id}`)
		else setTrouble(outcome.message)
	}
	return (
		<>
			<Button kind="main" onClick={() => setOpen(true)}>
				New layout
			</Button>
			<Ask open={open} onClose={() => setOpen(false)} title="A new layout">
				<form action={begin} className="space-y-3">
					<Choice
						label="For"
						value={kind}
						options={kinds.map(({ kind: value, name }) => [value, name])}
						onChange={(event) => {
							setKind(event.target.value)
							setFrom(`look ${kinds.find((one) => one.kind === event.target.value)?.looks[0]}`)
						}}
					/>
					<Choice
						label="It begins as"
						value={from}
						options={[
							...(chosen?.looks ?? []).map((name): [string, string] => [
								`look ${name}`,
								`the look ${name}, as it ships`,
							]),
							...(chosen?.layouts ?? []).map(({ id, name }): [string, string] => [`layout ${id}`, `a copy of ${name}`]),
							['nothing', 'an empty paper'],
						]}
						onChange={(event) => setFrom(event.target.value)}
					/>
					<TextField
						label="Its name"
						name="name"
						required
						maxLength={60}
						help="As lists have it; customers never see it."
					/>
					{trouble && <Notice tone="stop">{trouble}</Notice>}
					<Button kind="main" type="submit">
						Begin
					</Button>
				</form>
				<form
					className="mt-4 space-y-2 border-t border-rule pt-3"
					action={async (form) => {
						const outcome = await importLayout(form)
						if (outcome.ok) router.push(`/layouts/${outcome.id}`)
						else setTrouble(outcome.message)
					}}
				>
					<TextField
						label="Or bring one in from its file, a ZIP"
						type="file"
						name="file"
						accept=".zip,application/zip"
					/>
					<Button type="submit">Bring it in</Button>
				</form>
			</Ask>
		</>
	)
}

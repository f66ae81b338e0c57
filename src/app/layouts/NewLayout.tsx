'use client'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { importLayout, newLayout } from '@/app/acts/layouts'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { Choice, TextField } from '@/ui/Field'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { PdfPages } from '@/ui/PdfPages'

type Kind = { kind: string; name: string; looks: string[]; layouts: { id: number; name: string }[] }
type Props = {
	kinds: Kind[]
	/** Whether the firm has a logo, and the colours of it that text can be set in. */
	logo: { there: boolean; colours: string[] }
}

/** Guides to a new layout: the kind of paper, a look on the firm's own latest paper in a colour of its logo, or another beginning; and a name. */
export function NewLayout({ kinds, logo }: Props) {
	const [open, setOpen] = useState(false)
	const [kind, setKind] = useState(kinds[0]?.kind ?? '')
	const [from, setFrom] = useState(`look ${kinds[0]?.looks[0]}`)
	const [accent, setAccent] = useState('')
	const [trouble, setTrouble] = useState('')
	const router = useRouter()
	const chosen = kinds.find((one) => one.kind === kind)
	const begin = async (form: FormData) => {
		const [how, ...rest] = from.split(' ')
		const base =
			how === 'look'
				? { look: rest.join(' '), ...(accent ? { accent } : {}) }
				: how === 'layout'
					? { layout: Number(rest[0]) }
					: { nothing: true as const }
		const outcome = await answered(newLayout(kind, String(form.get('name') ?? ''), base))
		if (outcome.ok) router.push(`/layouts/${outcome.id}`)
		else setTrouble(outcome.message)
	}
	return (
		<>
			<Button kind="main" onClick={() => setOpen(true)}>
				New layout
			</Button>
			<Ask open={open} onClose={() => setOpen(false)} title="A new layout" wide>
				<div className="scrolls max-h-[72vh] pr-1">
					<form action={begin} className="space-y-3">
						<div className="grid grid-cols-2 gap-3">
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
									...(chosen?.layouts ?? []).map(({ id, name }): [string, string] => [
										`layout ${id}`,
										`a copy of ${name}`,
									]),
									['nothing', 'an empty paper'],
								]}
								onChange={(event) => setFrom(event.target.value)}
							/>
						</div>
						<fieldset>
							<legend className="mb-1 text-sm font-semibold">The three looks, on your latest paper</legend>
							<div className="grid grid-cols-3 gap-3">
								{(chosen?.looks ?? []).map((name) => (
									<button
										key={name}
										type="button"
										aria-pressed={from === `look ${name}`}
										className="block border border-rule bg-white text-left aria-pressed:border-2 aria-pressed:border-plum"
										onClick={() => setFrom(`look ${name}`)}
									>
										<span className="block h-52 overflow-hidden">
											{open && (
												<PdfPages
													url={`/api/layouts/look?kind=${kind}&look=${name}&accent=${accent}`}
													label={`The look ${name}`}
													most={1}
												/>
											)}
										</span>
										<span className="block border-t border-rule px-2 py-1">{name}</span>
									</button>
								))}
							</div>
						</fieldset>
						{from.startsWith('look') && (
							<fieldset className="flex flex-wrap items-center gap-2">
								<legend className="mb-1 text-sm font-semibold">Its colour</legend>
								<Button aria-pressed={accent === ''} onClick={() => setAccent('')}>
									as it ships
								</Button>
								{logo.colours.map((hex) => (
									<button
										key={hex}
										type="button"
										aria-label={`The logo’s colour ${hex}`}
										aria-pressed={accent === hex}
										className="h-8 w-12 rounded border border-rule aria-pressed:outline-2 aria-pressed:outline-plum"
										style={{ background: `#${hex}` }}
										onClick={() => setAccent(hex)}
									/>
								))}
								<label className="flex items-center gap-1.5 text-sm">
									<input
										type="color"
										aria-label="Another colour"
										value={`#${accent || '234a5e'}`}
										onChange={(event) => setAccent(event.target.value.slice(1))}
									/>
									another
								</label>
								{!logo.there && (
									<Link href="/company" className="text-sm text-plum underline">
										Set the firm’s logo first
									</Link>
								)}
							</fieldset>
						)}
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
							const outcome = await answered(importLayout(form))
							if (outcome.ok) router.push(`/layouts/${outcome.id}`)
							else setTrouble(outcome.message)
						}}
					>
						<input type="hidden" name="kind" value={kind} />
						<TextField
							label="Or bring one in from its file, a ZIP"
							type="file"
							name="file"
							accept=".zip,application/zip"
						/>
						<Button type="submit">Bring it in</Button>
					</form>
				</div>
			</Ask>
		</>
	)
}

'use client'
import { useState } from 'react'
import { chooseFor } from '@/app/acts/layouts'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { inputLook } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

type Kind = { kind: string; name: string; layouts: { id: number; name: string }[] }
type Row = { kind: string; customer_id: number | null; language: string; layout_id: number }
type Props = { kinds: Kind[]; choices: Row[]; customers: { id: number; name: string }[]; languages: [string, string][] }

/** Who gets which layout: a row each for the firm, languages and customers, a column each kind of paper. */
export function Choices({ kinds, choices, customers, languages }: Props) {
	const [trouble, setTrouble] = useState('')
	const [added, setAdded] = useState<string[]>([])
	const keyOf = ({ customer_id, language }: Row) =>
		customer_id === null ? (language === '' ? 'firm' : `language ${language}`) : `customer ${customer_id}`
	const rows = [...new Set(['firm', ...choices.map(keyOf), ...added])]
	const nameOf = (key: string): string => {
		const [what, value] = key.split(' ')
		if (what === 'language') return `Language: ${languages.find(([code]) => code === value)?.[1] ?? value}`
		return what === 'customer' ? (customers.find(({ id }) => id === Number(value))?.name ?? 'a customer') : 'The firm'
	}
	const choose = async (key: string, kind: string, layout: string) => {
		const [what, value = ''] = key.split(' ')
		const outcome = await answered(
			chooseFor(
				kind,
				what === 'customer' ? Number(value) : null,
				what === 'language' ? value : '',
				layout === '' ? null : Number(layout),
			),
		)
		setTrouble(outcome.ok ? '' : outcome.message)
	}
	const open = [
		...languages.map(([code, name]): [string, string] => [`language ${code}`, `Language: ${name}`]),
		...customers.map(({ id, name }): [string, string] => [`customer ${id}`, name]),
	].filter(([key]) => !rows.includes(key))
	return (
		<div className="max-w-4xl px-5 pb-6">
			{trouble && (
				<div className="mb-3">
					<Notice tone="stop">{trouble}</Notice>
				</div>
			)}
			<table className="w-full text-sm">
				<thead>
					<tr className="border-b border-ink text-left text-mute">
						<th className="py-1 pr-4 font-normal">Who</th>
						{kinds.map(({ kind, name }) => (
							<th key={kind} className="py-1 pr-4 font-normal">
								{name}
							</th>
						))}
					</tr>
				</thead>
				<tbody>
					{rows.map((key) => (
						<tr key={key} className="border-b border-rule-soft">
							<th scope="row" className="py-1.5 pr-4 text-left font-semibold">
								{nameOf(key)}
							</th>
							{kinds.map(({ kind, name, layouts }) => (
								<td key={kind} className="py-1.5 pr-4">
									<select
										aria-label={`${name} of ${nameOf(key)}`}
										className={inputLook}
										value={choices.find((row) => row.kind === kind && keyOf(row) === key)?.layout_id ?? ''}
										onChange={(event) => choose(key, kind, event.target.value)}
									>
										{key !== 'firm' && <option value="">as the firm</option>}
										{layouts.map((layout) => (
											<option key={layout.id} value={layout.id}>
												{layout.name}
											</option>
										))}
									</select>
								</td>
							))}
						</tr>
					))}
				</tbody>
			</table>
			<form
				className="mt-3 flex items-center gap-2"
				action={(form) => setAdded([...added, String(form.get('who') ?? '')].filter(Boolean))}
			>
				<select name="who" aria-label="Customer or language" className={`${inputLook} max-w-72`}>
					{open.map(([key, name]) => (
						<option key={key} value={key}>
							{name}
						</option>
					))}
				</select>
				<Button type="submit">Give them their own</Button>
			</form>
		</div>
	)
}

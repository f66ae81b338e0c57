'use client'
import { useEffect, useRef } from 'react'
import type { Change } from '@/forms/carryOver'
import type { Answers, Listed, ListedRow, Source } from '@/forms/marks'
import type { Fields } from '@/layout/fields'
import { Button } from '@/ui/Button'

const each: Record<Source, string> = {
	lines: 'each line',
	orders: 'each order',
	taxes: 'each rate of tax',
	items: 'each open item',
	movements: 'each movement',
}
const wheres = { head: 'at the head of pages', body: '', foot: 'at the foot of pages' } as Record<string, string>
const byWords = {
	name: 'by its name',
	place: 'by its place',
	'name and place': 'by its name and its place',
	'the form before': 'as in the form before',
}

type Props = {
	marks: readonly Listed[]
	rows: readonly ListedRow[]
	answers: Answers
	fields: Fields
	examples: Record<string, string>
	changes: readonly Change[]
	sources: readonly Source[]
	/** Rows in whose cells a mark stands, by the mark's key. */
	rowOf: ReadonlyMap<string, ListedRow>
	chosen: string | null
	onChoose: (key: string) => void
	onTake: (mark: Listed) => void
	onRow: (row: ListedRow, answer: Source | 'once') => void
}

/** The marks of a form in their order, each with what it was given, or what is offered. */
export function MarkList({
	marks,
	answers,
	fields,
	examples,
	changes,
	sources,
	rowOf,
	chosen,
	onChoose,
	onTake,
	onRow,
}: Props) {
	const place = useRef<HTMLUListElement>(null)
	useEffect(() => {
		place.current?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' })
	}, [chosen])
	let lastRow: ListedRow | undefined
	return (
		<ul ref={place} className="scrolls min-h-0 flex-1" aria-label="Marks of the form">
			{marks.map((mark) => {
				const row = rowOf.get(mark.key)
				const marksIn = row ? marks.filter((one) => rowOf.get(one.key) === row) : []
				// A row of one mark that stands once says so only where it is chosen.
				const said = row && (row.source || marksIn.length > 1 || marksIn.some(({ key }) => key === chosen))
				const newRow = row && said && row !== lastRow ? row : null
				lastRow = row
				const answer = answers.marks[mark.key]
				const field = answer && 'field' in answer ? fields.get(answer.field) : undefined
				const offered = !answer && mark.offer ? fields.get(mark.offer.field) : undefined
				const change = changes.find((one) => 'key' in one && one.key === mark.key)
				const spot = mark.spots[0]
				return (
					<li key={mark.key} data-mark={mark.key}>
						{newRow && (
							<div className="flex items-center gap-2 border-t border-rule bg-chart px-3 py-1 text-sm text-mute">
								<span className="min-w-0 flex-1 truncate" title={newRow.says}>
									Row of a table
								</span>
								<select
									aria-label={`The row “${newRow.says.slice(0, 40)}” stands`}
									className="rounded border border-rule bg-sheet px-1 py-0.5 text-sm text-ink"
									value={newRow.source ?? 'once'}
									onChange={(event) => onRow(newRow, event.target.value as Source | 'once')}
								>
									<option value="once">stands once</option>
									{sources.map((source) => (
										<option key={source} value={source}>
											{`stands for ${each[source]}`}
										</option>
									))}
								</select>
							</div>
						)}
						<div
							className={`flex items-stretch border-b border-rule-soft border-l-[3px] ${mark.key === chosen ? 'border-l-plum bg-plum-wash' : 'border-l-transparent'} ${row?.source ? 'pl-2' : ''}`}
						>
							<button
								type="button"
								aria-current={mark.key === chosen}
								className="min-w-0 flex-1 px-2.5 py-1.5 text-left"
								onClick={() => onChoose(mark.key)}
							>
								<span className="block truncate">
									<span className="text-mute">{lastPart(spot?.before ?? '')}</span>
									<span className="rounded-sm border-b-2 border-plum font-semibold">{mark.name}</span>
									{mark.spots.length > 1 && (
										<span className="text-sm text-mute">{` · ${mark.spots.length} places`}</span>
									)}
									{mark.others > 0 && (
										<span className="text-sm text-ochre">{` · ${mark.others + 1} of this name`}</span>
									)}
									{spot && wheres[spot.where] && (
										<span className="text-sm text-mute">{` · ${wheres[spot.where]}`}</span>
									)}
								</span>
								<span className="block truncate text-sm">
									{field ? (
										<>
											<span className="text-kelp">{`= ${field.group === 'Document' ? field.name : `${field.group}: ${field.name}`}`}</span>
											<span className="figures ml-2 text-mute">{examples[field.key] || 'empty here'}</span>
										</>
									) : answer ? (
										<span className="text-kelp">
											{'is' in answer && answer.is === 'nothing' ? '= nothing stands there' : '= it is text and stays'}
										</span>
									) : offered && mark.offer ? (
										<span className="text-ochre">
											{`${offered.group === 'Document' ? offered.name : `${offered.group}: ${offered.name}`}?`}
											<span className="figures ml-2 text-mute">{examples[offered.key] || 'empty here'}</span>
											<span className="ml-2 text-mute">{byWords[mark.offer.by]}</span>
										</span>
									) : (
										<span className="text-brick">says nothing yet</span>
									)}
								</span>
								{change && <span className="block truncate text-sm text-ochre">{changeWords(change)}</span>}
							</button>
							{offered && (
								<Button
									kind="bare"
									className="mr-1"
									aria-label={`Take ${offered.name} for ${mark.name}`}
									onClick={() => onTake(mark)}
								>
									Take
								</Button>
							)}
						</div>
					</li>
				)
			})}
		</ul>
	)
}

const lastPart = (before: string): string => {
	const part = before.split(/[}\]>»]/).at(-1) ?? ''
	return part.length > 22 ? `…${part.slice(-22)}` : part
}

const nameOf = (source: Source | null): string => (source ? `the row for ${each[source]}` : 'the paper')
function changeWords(change: Change): string {
	switch (change.is) {
		case 'new':
			return 'new in this form'
		case 'moved':
			return `stood on ${nameOf(change.from)} before; say what it is here`
		case 'renamed':
			return `stands where “${change.from}” stood`
		default:
			return ''
	}
}

'use client'
import { useState, useTransition } from 'react'
import { addField, takeFieldAway } from '@/app/acts/ownFields'
import type { OwnFieldUse } from '@/runs/firm/ownFields'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'
import { Choice, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { SavedForm } from '@/ui/SavedForm'
import { Table } from '@/ui/Table'

const whose = {
	customer: 'customers',
	item: 'items',
	order: 'orders',
	line: 'lines of orders',
	sheet: 'papers from sheets',
	row: 'rows of sheets',
}
const types = { text: 'text', number: 'number', day: 'day', picture: 'picture' }

/** Fields that the firm adds to what it keeps: with how many have a value, and which papers show it. */
export function OwnFields({ fields }: { fields: OwnFieldUse[] }) {
	const [asking, setAsking] = useState<OwnFieldUse | null>(null)
	const [trouble, setTrouble] = useState('')
	const [busy, start] = useTransition()
	return (
		<>
			{trouble && (
				<div className="px-5 pb-3">
					<Notice tone="stop">{trouble}</Notice>
				</div>
			)}
			<Table
				label="Fields of your own"
				rows={fields}
				rowKey={({ of, key }) => `${of} ${key}`}
				columns={[
					{
						key: 'name',
						label: 'Field',
						width: '200px',
						cell: ({ name }) => <span className="font-semibold">{name}</span>,
					},
					{ key: 'of', label: 'Of', width: '140px', cell: ({ of }) => whose[of] },
					{ key: 'type', label: 'Type', width: '100px', cell: ({ type }) => types[type] },
					{ key: 'values', label: 'Filled in', figures: true, width: '90px', cell: ({ values }) => values },
					{
						key: 'layouts',
						label: 'Used by',
						cell: ({ layouts }) =>
							layouts.length > 0 ? layouts.join(', ') : <span className="text-mute">nothing yet</span>,
					},
					{
						key: 'away',
						label: '',
						width: '110px',
						cell: (field) => (
							<Button kind="bare" onClick={() => setAsking(field)}>
								Take it away
							</Button>
						),
					},
				]}
			/>
			<details className="px-5 py-3">
				<summary className="text-plum">Add a field</summary>
				<div className="mt-3 max-w-3xl">
					<SavedForm
						save={addField}
						label="Add the field"
						saved="Added. Files with a column of its name fill it."
						resets
					>
						<div className="grid grid-cols-3 gap-4">
							<TextField
								label="Name of the field"
								name="name"
								required
								maxLength={40}
								help="As a column of a file would be called"
							/>
							<Choice label="Of" name="of" options={Object.entries(whose)} />
							<Choice label="Type" name="type" options={Object.entries(types)} />
						</div>
					</SavedForm>
				</div>
			</details>
			<Ask
				open={asking !== null}
				onClose={() => setAsking(null)}
				title={`Take the field “${asking?.name ?? ''}” away?`}
			>
				<p className="mb-4 text-mute">
					{asking?.values
						? `${asking.values} of your ${whose[asking.of]} have a value in it. It is shown nowhere from then on; papers that were issued keep it.`
						: `None of your ${asking ? whose[asking.of] : ''} has a value in it.`}
					{asking && asking.layouts.length > 0
						? ` It is used by ${asking.layouts.join(', ')}, from which it must be taken first.`
						: ''}
				</p>
				<Button
					kind="grave"
					disabled={busy}
					onClick={() =>
						start(async () => {
							const outcome = asking ? await takeFieldAway(asking.of, asking.key) : { ok: true as const }
							setTrouble(outcome.ok ? '' : outcome.message)
							setAsking(null)
						})
					}
				>
					Take it away
				</Button>
			</Ask>
		</>
	)
}

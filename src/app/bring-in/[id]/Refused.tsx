'use client'
import { useState, useTransition } from 'react'
import { correct, leaveOut } from '@/app/acts/bringIn'
import type { Outcome } from '@/core/outcome'
import type { Alike, KeptRefusal } from '@/store/outcomes'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button, buttonLook } from '@/ui/Button'
import { inputLook, TextField } from '@/ui/Field'
import { type Head, Heads } from '@/ui/Heads'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { Section } from '@/ui/Page'
import { useAwake } from '@/ui/useAwake'
import { MakeMissing, type Missing } from './MakeMissing'
import { MendRow, type WholeRow } from './MendRow'

type Row = { row: number; reasons: KeptRefusal[]; cells: { place: number; name: string; value: string }[] }
type Props = {
	id: number
	count: number
	rows: Row[]
	page: number
	pages: number
	alike: Alike[]
	home: string
	/** Whether rows are lines of orders, which are left out whole. */
	orders: boolean
}

const heads: Head[] = [
	['Row', 'w-[64px] py-1.5 pl-5 text-right'],
	['Column', 'w-[150px] px-2.5'],
	['What stands there', 'w-[250px] px-2.5'],
	['Why', 'px-2.5'],
	['Leave out', 'w-[110px] pr-5', 'silent'],
]

/** What a refusal asks to be made: a customer or a tax code that the books do not have. */
const missingOf = ({ field, value, remedy }: Pick<KeptRefusal, 'field' | 'value' | 'remedy'>): Missing | null =>
	value !== '' && /Make (one of )?it here/.test(remedy)
		? { what: field === 'taxCode' ? 'tax code' : 'customer', value }
		: null

const offersOf = ({ offers }: KeptRefusal): { value: string; words: string }[] => JSON.parse(offers)

/** Rows that were refused, each with its reasons, mended where they stand. The file stays as it came. */
export function Refused({ id, count, rows, page, pages, alike, home, orders }: Props) {
	const [trouble, setTrouble] = useState('')
	const [acting, start] = useTransition()
	const awake = useAwake()
	const busy = acting || !awake
	const [making, setMaking] = useState<Missing | null>(null)
	const [mending, setMending] = useState<WholeRow | null>(null)
	const [toLeaveOut, setToLeaveOut] = useState<number[] | null>(null)
	const does = (work: () => Promise<Outcome>) =>
		start(async () => {
			const outcome = await answered(work())
			setTrouble(outcome.ok ? '' : outcome.message)
		})
	const set = (row: number, place: number, was: string, now: string, field = '') =>
		does(() => correct(id, { row, place, field, was, now }))
	return (
		<Section
			title={count === 1 ? 'One row refused' : `${count.toLocaleString('en-GB')} rows refused`}
			aside={
				<>
					Mend them here; the file stays as it came.{' '}
					<a href={`/api/files/${id}/refused`} className="text-plum underline">
						Save them as CSV with their reasons
					</a>
				</>
			}
		>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			{alike.length > 0 && (
				<ul aria-label="All alike at once" className="border-t border-rule-soft bg-sheet">
					{alike.map((one) => (
						<li
							key={`${one.place} ${one.value} ${one.remedy}`}
							className="flex flex-wrap items-center gap-3 border-b border-rule-soft px-5 py-2 text-sm"
						>
							<span className="w-[280px]">
								{one.column_name} <span className="figures font-semibold">{one.value}</span> in{' '}
								<span className="figures">{one.rows}</span> rows
							</span>
							<span className="min-w-0 flex-1 truncate text-mute">{one.remedy}</span>
							<Mend
								label={`${one.column_name} in ${one.rows} rows`}
								value={one.value}
								words={`Set in ${one.rows} rows`}
								busy={busy}
								onSet={(now) => set(0, one.place, one.value, now)}
							/>
							<MakeButton missing={missingOf(one)} onMake={setMaking} />
						</li>
					))}
				</ul>
			)}
			<table aria-label="Refused rows" className="w-full bg-sheet text-sm">
				<Heads of={heads} />
				<tbody>
					{rows.map(({ row, reasons, cells }) =>
						reasons.map((reason, index) => (
							<tr key={reason.id} className="border-b border-rule-soft align-top">
								<td
									className="figures py-1.5 pl-5 text-right"
									title={cells.map(({ name, value }) => `${name}: ${value}`).join('\n')}
								>
									{index === 0 ? row : ''}
								</td>
								<td className="px-2.5 py-1.5">{reason.column_name}</td>
								<td className="px-2.5 py-1">
									{reason.place === null && reason.field === '' ? (
										<Button kind="bare" disabled={busy} onClick={() => setMending({ row, why: reason.remedy, cells })}>
											Mend the row
										</Button>
									) : / is refused whole, because row /.test(reason.remedy) ? (
										<span className="figures text-mute">{reason.value || 'nothing'}</span>
									) : (
										<Mend
											label={`${reason.column_name} of row ${row}`}
											value={reason.value}
											words="Set"
											busy={busy}
											onSet={(now) =>
												set(row, reason.place ?? 0, reason.value, now, reason.place === null ? reason.field : '')
											}
										/>
									)}
								</td>
								<td className="px-2.5 py-1.5">
									{reason.remedy}{' '}
									{offersOf(reason).map(({ value, words }) => (
										<Button
											key={value}
											kind="bare"
											disabled={busy}
											onClick={() =>
												set(row, reason.place ?? 0, reason.value, value, reason.place === null ? reason.field : '')
											}
										>
											{`${value} ${words}`}
										</Button>
									))}
									<MakeButton missing={missingOf(reason)} onMake={setMaking} />
								</td>
								<td className="py-1 pr-5 text-right">
									{index === 0 && (
										<Button kind="bare" disabled={busy} onClick={() => setToLeaveOut([row])}>
											Leave out
										</Button>
									)}
								</td>
							</tr>
						)),
					)}
				</tbody>
			</table>
			<div className="flex items-center gap-3 px-5 py-2.5">
				{pages > 1 && (
					<>
						{page > 1 && (
							<Link href={`/bring-in/${id}?page=${page - 1}`} className={buttonLook()}>
								Before
							</Link>
						)}
						<span className="text-mute">
							Page <span className="figures">{page}</span> of <span className="figures">{pages}</span>
						</span>
						{page < pages && (
							<Link href={`/bring-in/${id}?page=${page + 1}`} className={buttonLook()}>
								Next
							</Link>
						)}
					</>
				)}
				<Button disabled={busy} onClick={() => setToLeaveOut(rows.map(({ row }) => row))}>
					{rows.length === 1 ? 'Leave this row out' : `Leave these ${rows.length} rows out`}
				</Button>
			</div>
			<LeaveOut
				rows={toLeaveOut}
				orders={orders}
				onClose={() => setToLeaveOut(null)}
				onLeave={(reason) => {
					const which = toLeaveOut ?? []
					setToLeaveOut(null)
					does(() => leaveOut(id, which, reason))
				}}
			/>
			<MendRow file={id} whole={mending} onClose={() => setMending(null)} />
			<MakeMissing file={id} missing={making} home={home} onClose={() => setMaking(null)} />
		</Section>
	)
}

function MakeButton({ missing, onMake }: { missing: Missing | null; onMake: (missing: Missing) => void }) {
	return missing ? (
		<Button kind="bare" onClick={() => onMake(missing)}>{`Make ${missing.what} ${missing.value}`}</Button>
	) : null
}

function Mend({
	label,
	value,
	words,
	busy,
	onSet,
}: {
	label: string
	value: string
	words: string
	busy: boolean
	onSet: (now: string) => void
}) {
	const [now, setNow] = useState(value)
	return (
		<form
			className="flex items-center gap-2"
			onSubmit={(event) => {
				event.preventDefault()
				onSet(now)
			}}
		>
			<input
				aria-label={label}
				value={now}
				placeholder="nothing"
				onChange={(event) => setNow(event.target.value)}
				style={{ width: '9rem' }}
				className={`${inputLook} figures py-0.5`}
			/>
			<Button type="submit" disabled={busy || now === value} className="py-0.5">
				{words}
			</Button>
		</form>
	)
}

function LeaveOut({
	rows,
	orders,
	onClose,
	onLeave,
}: {
	rows: number[] | null
	orders: boolean
	onClose: () => void
	onLeave: (reason: string) => void
}) {
	const [reason, setReason] = useState('')
	const many = rows?.length ?? 0
	return (
		<Ask
			open={rows !== null}
			onClose={onClose}
			title={many === 1 ? `Leave row ${rows?.[0]} out` : `Leave ${many} rows out`}
		>
			<form
				className="space-y-4"
				onSubmit={(event) => {
					event.preventDefault()
					onLeave(reason)
				}}
			>
				{orders && <p className="text-mute">An order is left out whole: its other rows go with it.</p>}
				<TextField label="Why" value={reason} onChange={(event) => setReason(event.target.value)} />
				<div className="flex gap-2">
					<Button kind="main" type="submit" disabled={reason.trim() === ''}>
						{many === 1 ? 'Leave it out' : `Leave ${many} rows out`}
					</Button>
					<Button onClick={onClose}>Not now</Button>
				</div>
			</form>
		</Ask>
	)
}

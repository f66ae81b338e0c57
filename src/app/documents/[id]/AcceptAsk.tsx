'use client'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { acceptLines } from '@/app/acts/papers'
import { dayText } from '@/core/calendar'
import { formatAmount } from '@/core/format'
import type { AcceptView } from '@/runs/papers/accept'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

/** What a customer accepted of a paper: all that is left of it stands there already. It becomes an order that waits to be billed. */
export function AcceptAsk({
	id,
	name,
	view,
	open,
	onClose,
}: {
	id: number
	name: string
	view: AcceptView
	open: boolean
	onClose: () => void
}) {
	const [trouble, setTrouble] = useState('')
	const [late, setLate] = useState(false)
	const [busy, start] = useTransition()
	const router = useRouter()
	return (
		<Ask open={open} onClose={onClose} title={`${name} was accepted`} wide>
			<form
				className="space-y-3"
				onSubmit={(event) => {
					event.preventDefault()
					const form = new FormData(event.currentTarget)
					start(async () => {
						const outcome = await answered(
							acceptLines(id, {
								lines: form.getAll('line').map(Number),
								number: String(form.get('number') ?? ''),
								reason: String(form.get('reason') ?? ''),
							}),
						)
						if (outcome.ok) {
							onClose()
							router.push(`/orders/${outcome.id}`)
							return
						}
						setTrouble(outcome.message)
						if (outcome.ask === 'late') setLate(true)
					})
				}}
			>
				<p className="text-mute">
					It becomes an order with the prices, discounts and freight of the paper, and waits to be billed once.
					{view.until && ` The paper stands until ${dayText(view.until)}.`}
				</p>
				<div className="scrolls -m-1 max-h-72 space-y-1 p-1 pb-3">
					{view.lines.map(({ place, description, quantity, unit, net, order }) => (
						<label
							key={place}
							className={`grid grid-cols-[20px_minmax(0,1fr)_110px_100px] items-center gap-2 ${order ? 'text-mute' : ''}`}
						>
							<input
								type="checkbox"
								name="line"
								value={place}
								defaultChecked={order === null}
								disabled={order !== null}
								className="size-4 accent-plum"
							/>
							<span className="truncate">
								{description}
								{order && ` (on order ${order.order}${order.bill && order.billed ? `, billed on ${order.bill}` : ''})`}
							</span>
							<span className="figures text-right">{`${quantity} ${unit}`}</span>
							<span className="figures text-right">{net && formatAmount(net)}</span>
						</label>
					))}
				</div>
				<TextField
					label="Number of the order"
					name="number"
					defaultValue={view.number}
					maxLength={40}
					className="figures"
				/>
				{late && <TextField label="Why its prices still count" name="reason" required autoFocus />}
				{trouble && <Notice tone={late ? 'look' : 'stop'}>{trouble}</Notice>}
				<div className="flex gap-2">
					<Button kind="main" type="submit" disabled={busy}>
						Make the order
					</Button>
					<Button onClick={onClose}>Not now</Button>
				</div>
			</form>
		</Ask>
	)
}

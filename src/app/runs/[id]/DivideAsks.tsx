'use client'
import { divide, merge } from '@/app/acts/document'
import { useSeen } from '@/app/documentPanel/useSeen'
import { formatMinor } from '@/core/format'
import type { PanelView } from '@/runs/bench/panel'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'
import { TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

type Props = { view: PanelView; onClose: () => void }

/** Which lines leave a draft, and whether to an invoice of their own or to the next run. */
export function DivideAsk({ view, onClose, onDone }: Props & { onDone: (id?: number) => void }) {
	const { opened, trouble, now, keep: kept } = useSeen(view)
	const { document, lines } = opened
	const keep = async (form: FormData) => {
		const { outcome } = await kept((seen) =>
			divide(
				document.id,
				{
					lines: lines.flatMap((_, line) => (form.get(`line${line}`) === 'on' ? [line] : [])),
					to: form.get('to'),
					reason: String(form.get('reason') ?? ''),
				},
				seen,
			),
		)
		if (outcome.ok) onDone(outcome.id)
	}
	return (
		<Ask open onClose={onClose} title={`Divide the invoice to ${document.customer_name}`} wide>
			<form
				className="space-y-3"
				onSubmit={(event) => {
					event.preventDefault()
					void keep(new FormData(event.currentTarget))
				}}
			>
				<fieldset className="scrolls -m-1 max-h-64 p-1">
					<legend className="mb-1 text-sm font-semibold">Lines that leave it</legend>
					{lines.map((line, index) => (
						<label
							key={`${line.order} ${index} ${line.description}`}
							className="grid grid-cols-[auto_100px_minmax(0,1fr)_90px] items-center gap-2.5 border-b border-rule-soft py-1"
						>
							<input
								type="checkbox"
								name={`line${index}`}
								// biome-ignore lint/a11y/noAutofocus: the question was asked for, and this is what it is about
								autoFocus={index === 0}
								className="size-4 accent-plum"
							/>
							<span className="figures text-mute">{line.order}</span>
							<span className="truncate">{line.description}</span>
							<span className="figures text-right">{line.quantity}</span>
						</label>
					))}
				</fieldset>
				<fieldset className="space-y-1">
					<legend className="text-sm font-semibold">They go</legend>
					<label className="flex items-center gap-2">
						<input type="radio" name="to" value="own" defaultChecked className="size-4 accent-plum" /> to an invoice of
						their own, in this run
					</label>
					<label className="flex items-center gap-2">
						<input type="radio" name="to" value="next run" className="size-4 accent-plum" /> to the next run: held back
						here, waiting again when this run is closed
					</label>
				</fieldset>
				<TextField label="Why" name="reason" required help="Kept with both, and shown in the tally" />
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				{now && now.document.number === null && (
					<p className="text-mute">Above it stands as it is now. Choose again, and do it once more.</p>
				)}
				<div className="flex gap-2">
					<Button kind="main" type="submit">
						Divide it
					</Button>
					<Button onClick={onClose}>Not now</Button>
				</div>
			</form>
		</Ask>
	)
}

/** Which other draft to the same customer is put on this one. */
export function MergeAsk({ view, onClose }: Props) {
	const { opened, trouble, now, keep: kept } = useSeen(view)
	const { document, beside } = opened
	const keep = async (form: FormData) => {
		const { outcome } = await kept((seen) =>
			merge(document.id, { other: Number(form.get('other')), reason: String(form.get('reason') ?? '') }, seen),
		)
		if (outcome.ok) onClose()
	}
	return (
		<Ask open onClose={onClose} title={`Put another draft on the invoice to ${document.customer_name}`}>
			<form
				className="space-y-3"
				onSubmit={(event) => {
					event.preventDefault()
					void keep(new FormData(event.currentTarget))
				}}
			>
				<fieldset className="scrolls -m-1 max-h-64 p-1">
					<legend className="mb-1 text-sm font-semibold">Its orders come over</legend>
					{beside.map(({ id, order_numbers, total }, place) => (
						<label key={id} className="grid grid-cols-[auto_minmax(0,1fr)_auto] items-center gap-2.5 py-1">
							<input
								type="radio"
								name="other"
								value={id}
								defaultChecked={place === 0}
								// biome-ignore lint/a11y/noAutofocus: the question was asked for, and this is what it is about
								autoFocus={place === 0}
								className="size-4 accent-plum"
							/>
							<span className="figures truncate">{order_numbers}</span>
							<span className="figures">{`${formatMinor(total, document.currency)} ${document.currency}`}</span>
						</label>
					))}
				</fieldset>
				<TextField label="Why" name="reason" required help="Kept with the invoice" />
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				{now && now.document.number === null && (
					<p className="text-mute">Above it stands as it is now. Choose again, and do it once more.</p>
				)}
				<div className="flex gap-2">
					<Button kind="main" type="submit">
						Put them together
					</Button>
					<Button onClick={onClose}>Not now</Button>
				</div>
			</form>
		</Ask>
	)
}

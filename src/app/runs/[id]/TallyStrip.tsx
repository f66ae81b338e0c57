'use client'
import { useState } from 'react'
import { sourceTotal } from '@/app/acts/run'
import { formatMinor } from '@/core/format'
import type { GapRow, Stage, Strip } from '@/runs/tally/tally'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

type Props = {
	/** What is counted: orders, or open items. */
	unit: 'order' | 'item' | 'record'
	runId: number
	strip: Strip
	hints: Partial<Record<Stage['name'], string>>
	fixed: boolean
	/** One line high: for the currencies after the first. */
	small: boolean
	onDocument: (id: number) => void
}

/** The tally: five stages in the same unit, and between two of them whether they tie, or by how much they are out. */
export function TallyStrip({ unit, runId, strip, hints, fixed, onDocument, small }: Props) {
	const [gap, setGap] = useState<Stage | null>(null)
	const [typing, setTyping] = useState(false)
	const [changes, setChanges] = useState(false)
	return (
		<section
			aria-label={`Tally in ${strip.currency}`}
			className={`flex rounded border bg-sheet ${small ? 'border-rule' : 'border-ink'}`}
		>
			{strip.stages.map((stage, index) => {
				const before = strip.stages[index - 1]
				const source = index === 0 && (
					<Source
						strip={strip}
						fixed={fixed || unit !== 'order'}
						small={small}
						ledger={unit === 'item'}
						onType={() => setTyping(true)}
					/>
				)
				return (
					<div
						key={stage.name}
						className={`relative min-w-0 flex-1 border-rule px-3.5 not-first:border-l not-first:pl-7 not-last:pr-7 max-[1100px]:first:pl-2.5 max-[1100px]:not-last:pr-5 ${small ? 'py-0.5' : 'py-2'} ${stage.begun ? '' : 'blank-paper'}`}
					>
						{before && <Joint before={before} stage={stage} unit={unit} onOpen={() => setGap(stage)} />}
						{small ? (
							<p className="figures flex items-baseline gap-2 truncate text-xs">
								{stage.begun && (
									<>
										<span className="font-semibold">{formatMinor(stage.net, strip.currency)}</span>
										{source}
										<span className="text-mute max-[1100px]:hidden">{stage.orders}</span>
									</>
								)}
								{!stage.begun && <span className="sr-only">{stage.name}: not begun</span>}&nbsp;
							</p>
						) : (
							<>
								<div className="flex items-baseline justify-between gap-2">
									<span className={`font-semibold ${stage.begun ? '' : 'text-mute'}`}>{stage.name}</span>
									{stage.begun && (
										<span className="figures truncate text-xs text-mute">
											{stage.orders === 1 ? `1 ${unit}` : `${stage.orders} ${unit}s`}
										</span>
									)}
								</div>
								{stage.begun && (
									<p className="figures truncate text-lg font-semibold max-[1100px]:text-sm">
										{formatMinor(stage.net, strip.currency)}
										{index === 0 && <span className="ml-1.5 text-xs font-normal text-mute">{strip.currency}</span>}
									</p>
								)}
								{source}
								{index === 0 && strip.changes.length > 0 && (
									<button
										type="button"
										onClick={() => setChanges(true)}
										className="figures block max-w-full truncate text-xs text-plum underline-offset-2 hover:underline"
									>
										{`changed by ${formatMinor(stage.net - strip.broughtIn, strip.currency)}`}
									</button>
								)}
								{index > 0 && (
									<p className="truncate text-xs text-mute" title={hints[stage.name]}>
										{hints[stage.name] ??
											(stage.begun && `in ${stage.documents} ${stage.documents === 1 ? 'document' : 'documents'}`)}
									</p>
								)}
							</>
						)}
					</div>
				)
			})}
			<RowsAsk
				open={gap !== null}
				title={gap ? gapTitle(gap, strip.currency) : ''}
				rows={gap?.gapRows ?? []}
				currency={strip.currency}
				onClose={() => setGap(null)}
				onDocument={onDocument}
			/>
			<RowsAsk
				open={changes}
				title={`Changed since it was brought in, ${strip.currency}`}
				rows={strip.changes}
				currency={strip.currency}
				onClose={() => setChanges(false)}
				onDocument={onDocument}
			/>
			<SourceAsk open={typing} strip={strip} runId={runId} onClose={() => setTyping(false)} />
		</section>
	)
}

/** Between two stages: they tie, they are out by so many orders, or the next step is still to come. */
type JointProps = { before: Stage; stage: Stage; unit: string; onOpen: () => void }

function Joint({ before, stage, unit, onOpen }: JointProps) {
	const place =
		'figures absolute top-1/2 left-0 z-10 -translate-x-1/2 -translate-y-1/2 rounded-full border px-2 text-xs leading-[18px]'
	if (!stage.begun) {
		return before.begun ? <span className={`${place} border-ink bg-chart font-semibold`}>next</span> : null
	}
	if (stage.gap.documents === 0) return <span className={`${place} border-kelp bg-kelp-wash text-kelp`}>ties</span>
	const out = before.orders - stage.orders
	return (
		<button
			type="button"
			onClick={onOpen}
			aria-label={`${stage.name}: out by ${out} ${unit}s. Show them`}
			className={`${place} border-brick bg-brick-wash font-semibold text-brick hover:bg-sheet`}
		>
			−{out}
		</button>
	)
}

type SourceProps = { strip: Strip; fixed: boolean; small: boolean; ledger: boolean; onType: () => void }

function Source({ strip, fixed, small, ledger, onType }: SourceProps) {
	const whose = ledger ? 'the ledger’s' : 'the source’s'
	const { currency, sourceTotal: source, broughtIn: gathered } = strip
	if (source === null) {
		if (fixed) return small ? <span>{currency}</span> : null
		return (
			<button
				type="button"
				onClick={onType}
				aria-label={`Type in the source’s total in ${currency}`}
				className={`font-sans text-xs text-plum underline ${small ? '' : 'max-w-full truncate'}`}
			>
				{small ? currency : 'Type in the source’s total'}
			</button>
		)
	}
	const out = gathered - source
	const full =
		out === 0
			? `ties with ${whose} ${formatMinor(source, currency)}`
			: `${ledger ? 'ledger' : 'source'} says ${formatMinor(source, currency)}, out by ${formatMinor(out, currency)}`
	return (
		<button
			type="button"
			onClick={onType}
			disabled={fixed}
			title={full}
			className={`max-w-full truncate font-sans text-xs ${out === 0 ? 'text-kelp' : 'text-brick'} underline-offset-2 hover:underline`}
		>
			{small ? `${currency} ${out === 0 ? 'ties' : 'out'}` : full}
		</button>
	)
}

const gapTitle = ({ name, gap: { documents, net } }: Stage, currency: string): string =>
	`Not ${name.toLowerCase()}: ${documents === 1 ? 'one document' : `${documents} documents`}, net ${formatMinor(net, currency)} ${currency}`

type RowsProps = {
	open: boolean
	title: string
	rows: GapRow[]
	currency: string
	onClose: () => void
	onDocument: (id: number) => void
}

/** The very documents or changes that make a difference, each with its reason. */
function RowsAsk({ open, title, rows, currency, onClose, onDocument }: RowsProps) {
	return (
		<Ask open={open} onClose={onClose} title={title}>
			<ul className="scrolls max-h-80 border-t border-rule text-sm">
				{rows.map(({ documentId, customer, orders, net, reason }, place) => (
					<li key={`${documentId} ${place}`} className="border-b border-rule-soft">
						<button
							type="button"
							className="grid w-full grid-cols-[1fr_auto] gap-x-4 px-1 py-1.5 text-left hover:bg-plum-wash"
							onClick={() => {
								onDocument(documentId)
								onClose()
							}}
						>
							<span className="truncate">
								<span className="font-semibold">{customer}</span> <span className="figures text-mute">{orders}</span>
							</span>
							<span className="figures">{formatMinor(net, currency)}</span>
							<span className="col-span-2 text-mute">{reason}</span>
						</button>
					</li>
				))}
			</ul>
		</Ask>
	)
}

function SourceAsk({
	open,
	strip,
	runId,
	onClose,
}: {
	open: boolean
	strip: Strip
	runId: number
	onClose: () => void
}) {
	const [trouble, setTrouble] = useState('')
	return (
		<Ask open={open} onClose={onClose} title={`What the source reports in ${strip.currency}`}>
			<form
				className="space-y-3"
				action={async (form) => {
					const outcome = await answered(sourceTotal(runId, strip.currency, String(form.get('total') ?? '')))
					if (outcome.ok) onClose()
					else setTrouble(outcome.message)
				}}
			>
				<TextField
					label="Net total of the orders in this run"
					name="total"
					defaultValue={strip.sourceTotal === null ? '' : formatMinor(strip.sourceTotal, strip.currency)}
					className="figures"
					help="As your order system prints it. The first stage is tied against it. Leave it empty to take it away."
					autoFocus
				/>
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				<Button kind="main" type="submit">
					Tie against it
				</Button>
			</form>
		</Ask>
	)
}

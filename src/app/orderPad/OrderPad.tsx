'use client'
import { type KeyboardEvent, useEffect, useRef, useState, useTransition } from 'react'
import { saveOrder } from '@/app/acts/orderForm'
import { saveRecord } from '@/app/acts/papers'
import { dayText } from '@/core/calendar'
import { blankLine, type FormLine, type FormTrouble, type OrderForm } from '@/intake/orderForm'
import type { FormSeen } from '@/runs/drafts/orderForm'
import { Button } from '@/ui/Button'
import { inputLook } from '@/ui/Field'
import { type Head, Heads } from '@/ui/Heads'
import Link from '@/ui/Link'
import { Notice } from '@/ui/Notice'
import { PageHead } from '@/ui/Page'
import { useAwake } from '@/ui/useAwake'
import { Finder } from './Finder'
import { PadLine } from './PadLine'
import { PadTotals } from './PadTotals'

type Own = { key: string; name: string }
type Props = {
	/** The work date. */
	today: string
	taxCodes: [code: string, words: string][]
	/** Names of the firm's discounts. */
	discounts: string[]
	ofOrder: Own[]
	ofLine: Own[]
	/** The kind of paper that it is written for, in place of an order. */
	kind?: { id: number; name: string }
}

const heads: Head[] = [
	['Line', 'w-[44px] py-1.5 pl-5', 'silent'],
	['Item', 'w-[130px] px-1'],
	['Text', 'px-1'],
	['Quantity', 'w-[84px] px-1 text-right'],
	['Unit', 'w-[70px] px-1'],
	['Price', 'w-[100px] px-1 text-right'],
	['Less %', 'w-[66px] px-1 text-right'],
	['Tax', 'w-[84px] px-1'],
	['Net', 'w-[104px] px-1 text-right'],
	['Take it out', 'w-[56px] pr-5', 'silent'],
]

const newForm = (today: string): OrderForm => ({
	key: crypto.randomUUID(),
	number: '',
	customer: '',
	day: dayText(today),
	purchaseOrder: '',
	currency: '',
	discount: '',
	discountName: '',
	freight: '',
	note: '',
	delivery: '',
	own: {},
	lines: [{ ...blankLine }],
})
const isBlank = ({ own, ...line }: FormLine) =>
	[...Object.values(line), ...Object.values(own)].every((one) => one === '')

/** One order, written by keyboard alone: what is known is looked up, what it comes to stands beside it, what is missing at its field. */
export function OrderPad({ today, taxCodes, discounts, ofOrder, ofLine, kind }: Props) {
	const noun = kind?.name.toLowerCase() ?? 'order'
	const [form, setForm] = useState<OrderForm>(() => ({ ...newForm(today), key: 'not begun' }))
	const [seen, setSeen] = useState<FormSeen | null>(null)
	const [tried, setTried] = useState(false)
	const [trouble, setTrouble] = useState('')
	const [saved, setSaved] = useState<{ id: number; words: string } | null>(null)
	const [busy, start] = useTransition()
	const awake = useAwake()
	const sheet = useRef<HTMLFormElement>(null)
	const customer = useRef<HTMLInputElement>(null)

	useEffect(() => {
		setForm((before) => (before.key === 'not begun' ? { ...before, key: crypto.randomUUID() } : before))
		customer.current?.focus()
	}, [])
	// Looked at a moment after the last letter; an answer to older letters is not shown.
	useEffect(() => {
		const stop = new AbortController()
		const later = window.setTimeout(() => {
			fetch(`/api/order-form?kind=${kind?.id ?? ''}`, {
				method: 'POST',
				body: JSON.stringify(form),
				signal: stop.signal,
			})
				.then((answer) => (answer.ok ? answer.json() : null))
				.then((answer: FormSeen | null) => answer && setSeen(answer))
				.catch(() => {})
		}, 90)
		return () => {
			window.clearTimeout(later)
			stop.abort()
		}
	}, [form, kind?.id])

	// While an order is being saved it is not changed: what is typed then would be in neither this order nor the next.
	const set = (part: Partial<OrderForm>) => {
		if (busy) return
		setSaved(null)
		setTrouble('')
		setForm((before) => ({ ...before, ...part }))
	}
	const setLine = (place: number, part: Partial<FormLine>) => {
		if (busy) return
		setSaved(null)
		setTrouble('')
		setForm((before) => {
			const lines = before.lines.map((line, at) => (at === place ? { ...line, ...part } : line))
			// There is always one more line to write in.
			const last = lines.at(-1)
			return { ...before, lines: last && !isBlank(last) ? [...lines, { ...blankLine }] : lines }
		})
	}
	const dropLine = (place: number) => {
		if (busy) return
		setForm((before) => {
			const lines = before.lines.filter((_, at) => at !== place)
			const last = lines.at(-1)
			return { ...before, lines: last && isBlank(last) ? lines : [...lines, { ...blankLine }] }
		})
	}
	/** On to the next field of the short way, from one that is beside it to the one that follows. */
	const next = () => {
		const here = document.activeElement
		const all = [...(sheet.current?.querySelectorAll<HTMLElement>('input, select, textarea') ?? [])]
		const at = here instanceof HTMLElement ? all.indexOf(here) : -1
		const onWay = here?.hasAttribute('data-way') ?? false
		all
			.slice(at + 1)
			.find((one) => !onWay || one.hasAttribute('data-way'))
			?.focus()
	}
	const save = () =>
		start(async () => {
			setTrouble('')
			setTried(true)
			try {
				const outcome = kind ? await saveRecord(kind.id, form) : await saveOrder(form)
				if (!outcome.ok) {
					setTrouble(outcome.message)
					// The first field that is wrong is where one goes on, unless one went on already.
					const stood = document.activeElement
					window.setTimeout(() => {
						const wrong = sheet.current?.querySelector<HTMLElement>('[aria-invalid=true]')
						if (document.activeElement === stood) wrong?.focus()
					}, 60)
					return
				}
				setSaved({ id: outcome.id ?? 0, words: outcome.words ?? '' })
				setForm(newForm(today))
				setTried(false)
				customer.current?.focus()
			} catch {
				setTrouble(`The line broke before an answer came. Save it again: it is one ${noun} all the same.`)
			}
		})
	const onKey = (event: KeyboardEvent) => {
		if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
			event.preventDefault()
			if (awake) save()
			return
		}
		const isField = event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement
		if (event.key === 'Enter' && isField && !event.defaultPrevented) {
			event.preventDefault()
			next()
		}
	}
	/** What is wrong is said at once; what is missing, once saving was tried. */
	const at = (field: string, line: number | null = null): FormTrouble | null =>
		seen?.troubles.find((one) => one.field === field && one.line === line && (tried || !one.missing)) ?? null
	const text = (
		field: keyof OrderForm & string,
		label: string,
		more: { placeholder?: string; width?: string; way?: boolean } = {},
	) => {
		const wrong = at(field)
		return (
			<Row label={label} trouble={wrong} id={field}>
				<input
					aria-label={label}
					aria-invalid={wrong !== null}
					aria-describedby={wrong ? `${field}-why` : undefined}
					value={String(form[field] ?? '')}
					placeholder={more.placeholder}
					data-way={more.way || undefined}
					onChange={(event) => set({ [field]: event.target.value })}
					style={more.width ? { width: more.width } : undefined}
					className={`${inputLook} figures py-1 ${wrong ? 'border-brick' : ''}`}
				/>
			</Row>
		)
	}
	const wrongCustomer = at('customer')
	return (
		<>
			<PageHead
				title={kind ? `Write ${noun}` : 'Write an order'}
				about={
					kind
						? 'saved, its paper is made from its own page; nothing is billed by it'
						: 'for work that comes by phone; saved, it waits to be billed like any other'
				}
			>
				<Button kind="main" hint="Ctrl ↵" disabled={busy || !awake} onClick={save}>
					{kind ? 'Save it' : 'Save the order'}
				</Button>
			</PageHead>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			{saved && (
				<Notice tone="tie">
					{saved.words}{' '}
					<Link href={kind ? `/papers/records/${saved.id}` : `/orders/${saved.id}`} className="underline">
						Open it
					</Link>
				</Notice>
			)}
			<form
				ref={sheet}
				aria-label={`The ${noun}`}
				aria-busy={busy}
				onKeyDownCapture={(event) => {
					if (!busy) return
					event.preventDefault()
					event.stopPropagation()
				}}
				onKeyDown={onKey}
				onSubmit={(event) => event.preventDefault()}
				className={`pb-6 ${busy ? 'opacity-60' : ''}`}
			>
				<div className="grid grid-cols-[minmax(0,5fr)_minmax(0,4fr)_minmax(0,4fr)] gap-x-8 border-t border-rule bg-sheet px-5 py-3">
					<div className="space-y-1.5">
						<Row label="Customer" trouble={wrongCustomer} id="customer">
							<Finder
								what="customer"
								label="Customer"
								value={form.customer}
								invalid={wrongCustomer !== null}
								describedBy={wrongCustomer ? 'customer-why' : undefined}
								placeholder="part of a name or number"
								inputRef={customer}
								onType={(words) => set({ customer: words })}
								onChoose={({ code }) => {
									set({ customer: code })
									window.setTimeout(next, 0)
								}}
								onEnter={next}
							/>
						</Row>
						<p className="min-h-[2.9em] pl-[112px] text-sm text-mute">
							{seen?.customer && seen.customer.number.toLowerCase() === form.customer.trim().toLowerCase() && (
								<>
									<span className="text-ink">{seen.customer.name}</span>
									<br />
									{seen.customer.words}
								</>
							)}
						</p>
						{text('purchaseOrder', 'Their order', { way: true })}
					</div>
					<div className="space-y-1.5">
						{text('day', 'Date')}
						{text('number', 'Number', { placeholder: seen?.number ?? '' })}
						{text('currency', 'Currency', { placeholder: seen?.currency ?? '', width: '5rem' })}
					</div>
					<div className="space-y-1.5">
						<Row label="Deliver to" trouble={at('delivery')} id="delivery">
							<textarea
								aria-label="Deliver to"
								rows={2}
								value={form.delivery}
								placeholder="as the customer’s address"
								onChange={(event) => set({ delivery: event.target.value })}
								onKeyDown={(event) => {
									// A blank line ends it.
									if (event.key !== 'Enter' || event.ctrlKey || !/^$|\n$/.test(form.delivery)) return
									event.preventDefault()
									next()
								}}
								className={`${inputLook} py-1`}
							/>
						</Row>
						{text('note', 'Note')}
						{ofOrder.map(({ key, name }) => (
							<Row key={key} label={name} trouble={at(`own ${key}`)} id={`own-${key}`}>
								<input
									aria-label={name}
									aria-invalid={at(`own ${key}`) !== null}
									value={form.own[key] ?? ''}
									onChange={(event) => set({ own: { ...form.own, [key]: event.target.value } })}
									className={`${inputLook} py-1`}
								/>
							</Row>
						))}
					</div>
				</div>
				<table aria-label={`Lines of the ${noun}`} className="w-full table-fixed border-y border-rule bg-sheet text-sm">
					<Heads of={heads} look="border-b border-rule" />
					<tbody>
						{form.lines.map((line, place) => (
							<PadLine
								key={place}
								place={place}
								line={line}
								seen={seen?.lines.find((one) => one.place === place) ?? null}
								taxCodes={taxCodes}
								own={ofLine}
								isLast={place === form.lines.length - 1}
								troubleAt={(field) => at(field, place)}
								onSet={(part) => setLine(place, part)}
								onDrop={() => dropLine(place)}
								onNext={next}
							/>
						))}
					</tbody>
				</table>
				{at('lines') && <p className="px-5 pt-2 text-sm text-brick">{at('lines')?.words}</p>}
				<PadTotals form={form} seen={seen} discounts={discounts} troubleAt={(field) => at(field)} onSet={set} />
			</form>
		</>
	)
}

function Row({
	label,
	trouble,
	id,
	children,
}: {
	label: string
	trouble: FormTrouble | null
	id: string
	children: React.ReactNode
}) {
	return (
		<div className="grid grid-cols-[104px_minmax(0,1fr)] items-start gap-x-2">
			<span className="pt-1 text-sm font-semibold">{label}</span>
			<div>
				{children}
				{trouble && (
					<p id={`${id}-why`} className="mt-0.5 text-xs text-brick">
						{trouble.words}
					</p>
				)}
			</div>
		</div>
	)
}

'use client'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'
import { TextArea } from '@/ui/Field'

export function HoldAsk({
	open,
	name,
	onClose,
	onHold,
}: {
	open: boolean
	name: string
	onClose: () => void
	onHold: (reason: string) => void
}) {
	return (
		<Ask open={open} onClose={onClose} title={`Hold back what goes to ${name}`}>
			<form className="space-y-3" action={(form) => onHold(String(form.get('reason') ?? ''))}>
				<TextArea
					label="Why"
					name="reason"
					rows={3}
					required
					autoFocus
					help="The reason stands in the tally beside the difference it makes. Enter holds it back."
					onKeyDown={(event) => {
						if (event.key !== 'Enter' || event.shiftKey) return
						event.preventDefault()
						event.currentTarget.form?.requestSubmit()
					}}
				/>
				<Button kind="main" type="submit">
					Hold it back
				</Button>
			</form>
		</Ask>
	)
}

/** Asks once before what cannot be undone. */
export function SureAsk({
	open,
	title,
	words,
	yes,
	onClose,
	onYes,
}: {
	open: boolean
	title: string
	words: string
	yes: string
	onClose: () => void
	onYes: () => void
}) {
	return (
		<Ask open={open} onClose={onClose} title={title}>
			<p className="mb-4 text-mute">{words}</p>
			<div className="flex gap-2">
				<Button
					kind="main"
					autoFocus
					onClick={() => {
						onClose()
						onYes()
					}}
				>
					{yes}
				</Button>
				<Button onClick={onClose}>Not now</Button>
			</div>
		</Ask>
	)
}

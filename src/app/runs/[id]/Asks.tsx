'use client'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'

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

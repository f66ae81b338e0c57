'use client'
import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'

type Props = {
	open: boolean
	onClose: () => void
	title: string
	/** For a question with a table in it. */
	wide?: boolean
	children: ReactNode
}

/** A question over the screen; Escape leaves it without effect. */
export function Ask({ open, onClose, title, wide = false, children }: Props) {
	return (
		<Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
			<Dialog.Portal>
				<Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
				<Dialog.Content
					aria-describedby={undefined}
					className={`fixed left-1/2 z-50 -translate-x-1/2 scrolls rounded border border-ink bg-sheet p-5 ${wide ? 'top-[5%] max-h-[90vh] w-[min(800px,94vw)]' : 'top-[14%] max-h-[80vh] w-[min(520px,92vw)]'}`}
				>
					<Dialog.Title className="mb-3 text-lg font-semibold">{title}</Dialog.Title>
					{children}
				</Dialog.Content>
			</Dialog.Portal>
		</Dialog.Root>
	)
}

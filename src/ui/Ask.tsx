'use client'
import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'

/** A question over the screen; Escape leaves it without effect. */
export function Ask({
	open,
	onClose,
	title,
	children,
}: {
	open: boolean
	onClose: () => void
	title: string
	children: ReactNode
}) {
	return (
		<Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
			<Dialog.Portal>
				<Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
				<Dialog.Content
					aria-describedby={undefined}
					className="fixed top-[18%] left-1/2 z-50 w-[min(520px,92vw)] -translate-x-1/2 rounded border border-ink bg-sheet p-5"
				>
					<Dialog.Title className="mb-3 text-lg font-semibold">{title}</Dialog.Title>
					{children}
				</Dialog.Content>
			</Dialog.Portal>
		</Dialog.Root>
	)
}

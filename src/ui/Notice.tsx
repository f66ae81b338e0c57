import type { ReactNode } from 'react'

const tones = {
	stop: 'border-brick bg-brick-wash text-brick',
	look: 'border-ochre bg-ochre-wash text-ochre',
	tie: 'border-kelp bg-kelp-wash text-kelp',
	plain: 'border-rule bg-sheet text-ink',
}

/** A sentence that the clerk should read: what is so, and the remedy. */
export function Notice({ tone, children }: { tone: keyof typeof tones; children: ReactNode }) {
	return (
		<div role={tone === 'stop' ? 'alert' : 'status'} className={`rounded border-l-[3px] px-3 py-2 ${tones[tone]}`}>
			{children}
		</div>
	)
}

import type { ReactNode } from 'react'

/** A part of a screen that scrolls by itself and can be reached by the keyboard. */
export function ScrollBox({ label, height, children }: { label: string; height: number; children: ReactNode }) {
	return (
		// biome-ignore lint/a11y/noNoninteractiveTabindex: a box that scrolls must be reachable by the keyboard
		<section aria-label={label} tabIndex={0} className="scrolls" style={{ maxHeight: height }}>
			{children}
		</section>
	)
}

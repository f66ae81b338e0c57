import type { ReactNode } from 'react'

/** The head of a screen: its title, a line about it, and its one action. */
export function PageHead({ title, about, children }: { title: string; about?: ReactNode; children?: ReactNode }) {
	return (
		<header className="flex flex-wrap items-center gap-x-4 gap-y-2 px-5 pt-4 pb-3">
			<h1 className="text-xl font-semibold">{title}</h1>
			{about && <p className="text-mute">{about}</p>}
			<div className="ml-auto flex gap-2">{children}</div>
		</header>
	)
}

/** What belongs on a screen that has nothing yet, and the first step. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
	return (
		<div className="mx-5 mt-4 max-w-xl border-l-[3px] border-rule pl-5 py-2">
			<h2 className="text-lg font-semibold">{title}</h2>
			<div className="mt-1 space-y-3 text-mute">{children}</div>
		</div>
	)
}

/** A part of a screen with its own heading, parted from the rest by a rule. */
export function Section({
	title,
	children,
	aside,
	id,
}: {
	title: string
	children: ReactNode
	aside?: ReactNode
	/** For links that lead to it. */
	id?: string
}) {
	return (
		<section id={id} className="border-t border-rule">
			<div className="flex items-baseline gap-3 px-5 pt-3 pb-2">
				<h2 className="font-semibold">{title}</h2>
				<div className="text-mute">{aside}</div>
			</div>
			{children}
		</section>
	)
}

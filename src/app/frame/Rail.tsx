'use client'
import { usePathname } from 'next/navigation'
import Link from '@/ui/Link'

const groups: [heading: string, entries: [path: string, words: string][]][] = [
	['', [['/', 'Desk']]],
	[
		'The month’s work',
		[
			['/bring-in', 'Bring in'],
			['/to-bill', 'To bill'],
			['/runs', 'Runs'],
			['/postroom', 'Postroom'],
			['/sent-log', 'Sent log'],
		],
	],
	[
		'The books',
		[
			['/accounts', 'Accounts'],
			['/items', 'Items and rates'],
		],
	],
	[
		'How we print and write',
		[
			['/papers', 'Kinds of paper'],
			['/layouts', 'Layouts'],
			['/letters', 'Letters'],
			['/registers', 'Number registers'],
			['/company', 'Company'],
		],
	],
]

/** The rail of words, in the order of the work; counts stand beside them. */
export function Rail({ counts }: { counts: Record<string, number> }) {
	const here = usePathname()
	return (
		<nav aria-label="Places" className="scrolls min-h-0 flex-1 py-2">
			{groups.map(([heading, entries]) => (
				<div key={heading} className="mb-2">
					{heading && <p className="px-4 pt-2 pb-1 text-xs font-semibold text-mute">{heading}</p>}
					{entries.map(([path, words]) => {
						const current = path === '/' ? here === '/' : here.startsWith(path)
						const count = counts[path] ?? 0
						return (
							<Link
								key={path}
								href={path}
								aria-current={current ? 'page' : undefined}
								className={`flex items-baseline justify-between border-l-[3px] py-1 pr-3.5 pl-4 ${current ? 'border-plum bg-sheet font-semibold' : 'border-transparent hover:bg-sheet/60'}`}
							>
								{words}
								{count > 0 && <span className="figures text-xs text-mute">{count}</span>}
							</Link>
						)
					})}
				</div>
			))}
		</nav>
	)
}

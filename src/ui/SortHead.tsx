import type { ReactNode } from 'react'
import Link from '@/ui/Link'
import type { Sorts } from './order'

/** The name of a column that its list can be sorted by. */
export function SortHead({ of, sorts, children }: { of: string; sorts: Sorts; children: ReactNode }) {
	const look = 'font-semibold hover:text-ink hover:underline'
	const words = (
		<>
			{children}
			{sorts.by === of && <span aria-hidden>{sorts.down ? ' ↓' : ' ↑'}</span>}
		</>
	)
	return 'to' in sorts ? (
		<Link href={sorts.to(of)} className={look}>
			{words}
		</Link>
	) : (
		<button type="button" onClick={() => sorts.on(of)} className={look}>
			{words}
		</button>
	)
}

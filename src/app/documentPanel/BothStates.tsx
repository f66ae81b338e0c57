import type { Apart } from './meeting'

/** What a person typed and what another did meanwhile, side by side. */
export function BothStates({ apart }: { apart: Apart[] }) {
	if (apart.length === 0) return null
	return (
		<table aria-label="What is different" className="w-full text-sm">
			<thead>
				<tr className="border-b border-rule text-left text-xs text-mute">
					<th className="py-1 pr-2 font-semibold">Field</th>
					<th className="py-1 pr-2 font-semibold">As you opened it</th>
					<th className="py-1 pr-2 font-semibold">As you typed</th>
					<th className="py-1 font-semibold">As it is now</th>
				</tr>
			</thead>
			<tbody>
				{apart.map(({ field, opened, typed, now }) => (
					<tr key={field} className="border-b border-rule-soft align-top">
						<td className="py-1 pr-2">{field}</td>
						<td className="py-1 pr-2 text-mute">{opened || 'none'}</td>
						<td className={`py-1 pr-2 ${typed === opened ? 'text-mute' : 'font-semibold'}`}>{typed || 'none'}</td>
						<td className={`py-1 ${now === opened ? 'text-mute' : 'font-semibold text-ochre'}`}>{now || 'none'}</td>
					</tr>
				))}
			</tbody>
		</table>
	)
}

import { bodyParts, figureColumns, paragraph } from '@/core/messageBody'

/** A message as its customer reads it: text as it was typed, tables drawn. */
export function MessageBody({ body }: { body: string }) {
	return bodyParts(body).map((part, place) => {
		if ('text' in part)
			return (
				<p key={place} className="whitespace-pre-wrap">
					{paragraph(part.text)}
				</p>
			)
		const [head = [], ...rows] = part.rows
		const right = figureColumns(part.rows)
		const look = right.map((figures) => `py-0.5 pr-3.5 ${figures ? 'text-right' : 'text-left'}`)
		return (
			<table key={place} className="my-4 text-xs">
				<thead>
					<tr className="border-b border-rule text-mute">
						{head.map((cell, column) => (
							<th key={column} scope="col" className={`font-semibold ${look[column]}`}>
								{cell}
							</th>
						))}
					</tr>
				</thead>
				<tbody>
					{rows.map((row, at) => (
						<tr key={at} className="border-b border-rule-soft">
							{row.map((cell, column) => (
								<td key={column} className={`${look[column]} whitespace-nowrap ${right[column] ? 'figures' : ''}`}>
									{cell}
								</td>
							))}
						</tr>
					))}
				</tbody>
			</table>
		)
	})
}

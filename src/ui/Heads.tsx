/** A column's head: its name, its classes (width, side), and whether the name is for ears alone. */
export type Head = [name: string, look: string, silent?: 'silent']

/** The row of heads of a table whose cells are its own. */
export const Heads = ({ of, look = 'border-y border-rule' }: { of: readonly Head[]; look?: string }) => (
	<thead>
		<tr className={`${look} text-left text-xs text-mute`}>
			{of.map(([name, own, silent]) => (
				<th key={name} scope="col" className={`${own} font-semibold`}>
					{silent ? <span className="sr-only">{name}</span> : name}
				</th>
			))}
		</tr>
	</thead>
)

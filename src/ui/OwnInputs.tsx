import { TextField } from './Field'

type Own = { key: string; name: string; type: string }

/** Inputs for a firm's own fields, by their types; pictures are set apart. */
export function OwnInputs({
	fields,
	values,
	help,
}: {
	fields: readonly Own[]
	values: Record<string, string>
	help?: string
}) {
	return fields
		.filter(({ type }) => type !== 'picture')
		.map(({ key, name, type }) => (
			<TextField
				key={key}
				label={name}
				name={`own.${key}`}
				type={type === 'day' ? 'date' : 'text'}
				inputMode={type === 'number' ? 'decimal' : undefined}
				className={type === 'number' ? 'figures' : ''}
				defaultValue={values[key] ?? ''}
				help={help}
			/>
		))
}

import { inputLook } from './Field'

type Props = {
	words: string
	placeholder: string
	/** What else of the address stays. */
	keep?: Record<string, string>
}

/** A filter that lives in the address, so that it can be shared and reloaded. */
export function FilterForm({ words, placeholder, keep = {} }: Props) {
	return (
		<form method="get" className="px-5 pb-3">
			{Object.entries(keep).map(([name, value]) => (
				<input key={name} type="hidden" name={name} value={value} />
			))}
			<input
				name="show"
				aria-label="Filter"
				defaultValue={words}
				placeholder={placeholder}
				className={`${inputLook} max-w-96`}
			/>
		</form>
	)
}

import { inputLook } from './Field'

/** A filter that lives in the address, so that it can be shared and reloaded. */
export function FilterForm({ words, placeholder }: { words: string; placeholder: string }) {
	return (
		<form method="get" className="px-5 pb-3">
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

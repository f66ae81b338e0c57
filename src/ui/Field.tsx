import {
	type InputHTMLAttributes,
	type ReactNode,
	type SelectHTMLAttributes,
	type TextareaHTMLAttributes,
	useId,
} from 'react'

export const inputLook = 'w-full rounded border border-rule bg-sheet px-2 py-1.5 hover:border-mute'

/** `hideLabel` where a table's head says it already: then it is read out alone. */
type Own = { label: string; help?: ReactNode; hideLabel?: boolean }
type Ids = { id: string; 'aria-describedby'?: string }

/** A control under its label; the help below belongs to its description, not its name. */
function Labelled({
	id,
	label,
	help,
	hideLabel = false,
	children,
}: Own & { id?: string; children: (ids: Ids) => ReactNode }) {
	const made = useId()
	const own = id ?? made
	return (
		<div>
			<label htmlFor={own} className={hideLabel ? 'sr-only' : 'mb-1 block text-sm font-semibold'}>
				{label}
			</label>
			{children({ id: own, ...(help ? { 'aria-describedby': `${own}-help` } : {}) })}
			{help && (
				<p id={`${own}-help`} className="mt-1 text-xs text-mute">
					{help}
				</p>
			)}
		</div>
	)
}

export const TextField = ({
	label,
	help,
	className = '',
	id,
	hideLabel = false,
	...rest
}: Own & InputHTMLAttributes<HTMLInputElement>) => (
	<Labelled id={id} label={label} help={help} hideLabel={hideLabel}>
		{(ids) => <input className={`${inputLook} ${className}`} {...ids} {...rest} />}
	</Labelled>
)

export const TextArea = ({ label, help, id, ...rest }: Own & TextareaHTMLAttributes<HTMLTextAreaElement>) => (
	<Labelled id={id} label={label} help={help}>
		{(ids) => <textarea className={inputLook} {...ids} {...rest} />}
	</Labelled>
)

type ChoiceProps = Own & { options: [value: string, words: string][] } & SelectHTMLAttributes<HTMLSelectElement>

export const Choice = ({ label, help, options, id, ...rest }: ChoiceProps) => (
	<Labelled id={id} label={label} help={help}>
		{(ids) => (
			<select className={inputLook} {...ids} {...rest}>
				{options.map(([value, words]) => (
					<option key={value} value={value}>
						{words}
					</option>
				))}
			</select>
		)}
	</Labelled>
)

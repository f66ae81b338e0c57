import type { InputHTMLAttributes, ReactNode, SelectHTMLAttributes, TextareaHTMLAttributes } from 'react'

export const inputLook = 'w-full rounded border border-rule bg-sheet px-2 py-1.5 hover:border-mute'

function Labelled({ label, help, children }: { label: string; help?: ReactNode; children: ReactNode }) {
	return (
		// biome-ignore lint/a11y/noLabelWithoutControl: the control is among the children
		<label className="block">
			<span className="mb-1 block text-sm font-semibold">{label}</span>
			{children}
			{help && <span className="mt-1 block text-xs text-mute">{help}</span>}
		</label>
	)
}

type Own = { label: string; help?: ReactNode }

export const TextField = ({ label, help, className = '', ...rest }: Own & InputHTMLAttributes<HTMLInputElement>) => (
	<Labelled label={label} help={help}>
		<input className={`${inputLook} ${className}`} {...rest} />
	</Labelled>
)

export const TextArea = ({ label, help, ...rest }: Own & TextareaHTMLAttributes<HTMLTextAreaElement>) => (
	<Labelled label={label} help={help}>
		<textarea className={inputLook} {...rest} />
	</Labelled>
)

export const Choice = ({
	label,
	help,
	options,
	...rest
}: Own & { options: [value: string, words: string][] } & SelectHTMLAttributes<HTMLSelectElement>) => (
	<Labelled label={label} help={help}>
		<select className={inputLook} {...rest}>
			{options.map(([value, words]) => (
				<option key={value} value={value}>
					{words}
				</option>
			))}
		</select>
	</Labelled>
)

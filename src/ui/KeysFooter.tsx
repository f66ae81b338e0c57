import { KeyHint } from './KeyHint'

type Props = { keys: readonly (readonly [key: string, words: string])[]; status: string }

/** The keys that are used most, below a workplace, and what it is doing. */
export const KeysFooter = ({ keys, status }: Props) => (
	<footer className="flex flex-wrap items-center gap-x-4 border-t border-rule px-4 py-1.5 text-sm text-mute max-[1100px]:gap-x-2">
		{keys.map(([key, words]) => (
			<span key={key} className="whitespace-nowrap">
				<KeyHint>{key}</KeyHint> {words}
			</span>
		))}
		<span role="status" className="ml-auto">
			{status}
		</span>
	</footer>
)

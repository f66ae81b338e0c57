import { Ask } from './Ask'
import { KeyHint } from './KeyHint'

type Props = {
	open: boolean
	onClose: () => void
	keys: readonly (readonly [keys: string | readonly string[], words: string])[]
}

/** Every key of a screen, with what it does. */
export const KeysAsk = ({ open, onClose, keys }: Props) => (
	<Ask open={open} onClose={onClose} title="Keys of this screen">
		<dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
			{keys.map(([key, words]) => (
				<div key={words} className="contents">
					<dt className="flex gap-1">
						{[key].flat().map((name) => (
							<KeyHint key={name}>{name}</KeyHint>
						))}
					</dt>
					<dd>{words}</dd>
				</div>
			))}
		</dl>
	</Ask>
)

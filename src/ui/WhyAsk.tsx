'use client'
import { TextField } from './Field'
import { FieldsAsk } from './FieldsAsk'

type Props = {
	title: string
	/** What the act means, where that is not plain. */
	about?: string
	/** What is asked for, where it is not why. */
	label?: string
	help?: string
	yes: string
	/** `grave` for what is not easily undone. */
	kind?: 'main' | 'grave'
	onClose: () => void
	act: (reason: string) => Promise<{ ok: true } | { ok: false; message: string }>
}

/** Asks why before something is done. */
export const WhyAsk = ({ about, label = 'Why', help, act, ...rest }: Props) => (
	<FieldsAsk {...rest} act={(typed) => act(typed('reason'))}>
		{about && <p className="text-mute">{about}</p>}
		<TextField label={label} name="reason" required autoFocus {...(help ? { help } : {})} />
	</FieldsAsk>
)

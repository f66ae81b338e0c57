'use client'
import { useState } from 'react'
import { bringAForm } from '@/app/acts/forms'
import { Button } from '@/ui/Button'
import { Choice, TextField } from '@/ui/Field'
import { FormAsk } from './FormAsk'

/** Brings in a form that the firm has, to become a layout. */
export function NewForm({ kinds }: { kinds: { kind: string; name: string }[] }) {
	const [open, setOpen] = useState(false)
	const [kind, setKind] = useState(kinds[0]?.kind ?? '')
	return (
		<>
			<Button onClick={() => setOpen(true)}>Bring in a form you have</Button>
			<FormAsk
				open={open}
				onClose={() => setOpen(false)}
				title="A form you have"
				about="A text document in which values are marked: by merge fields, content controls or names in brackets. It becomes a layout."
				bring={(form) => bringAForm(kind, form)}
			>
				<Choice
					label="For"
					value={kind}
					options={kinds.map(({ kind: value, name }) => [value, name])}
					onChange={(event) => setKind(event.target.value)}
				/>
				<TextField label="Name of the layout" name="name" maxLength={60} help="Empty: as the file is called." />
			</FormAsk>
		</>
	)
}

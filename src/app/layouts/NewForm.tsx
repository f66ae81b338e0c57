'use client'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { bringAForm } from '@/app/acts/forms'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'
import { Choice, TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

/** Brings in a form that the firm has, to become a layout. */
export function NewForm({ kinds }: { kinds: { kind: string; name: string }[] }) {
	const [open, setOpen] = useState(false)
	const [kind, setKind] = useState(kinds[0]?.kind ?? '')
	const [trouble, setTrouble] = useState('')
	const router = useRouter()
	return (
		<>
			<Button onClick={() => setOpen(true)}>Bring in a form you have</Button>
			<Ask open={open} onClose={() => setOpen(false)} title="A form you have">
				<form
					className="space-y-3"
					action={async (form) => {
						const outcome = await bringAForm(kind, form)
						if (outcome.ok) router.push(`/layouts/forms/${outcome.id}`)
						else setTrouble(outcome.message)
					}}
				>
					<p className="text-mute">
						A text document in which values are marked: by merge fields, content controls or names in brackets. It
						becomes a layout.
					</p>
					<TextField
						label="The form: DOCX, ODT or HTML"
						type="file"
						name="file"
						required
						accept=".docx,.docm,.odt,.html,.htm"
					/>
					<Choice
						label="For"
						value={kind}
						options={kinds.map(({ kind: value, name }) => [value, name])}
						onChange={(event) => setKind(event.target.value)}
					/>
					<TextField label="Name of the layout" name="name" maxLength={60} help="Empty: as the file is called." />
					{trouble && <Notice tone="stop">{trouble}</Notice>}
					<Button kind="main" type="submit">
						Bring it in
					</Button>
				</form>
			</Ask>
		</>
	)
}

'use client'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { bringANewerForm } from '@/app/acts/forms'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'
import { TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

/** Brings a newer one of a form in; what was said of its marks is carried over. */
export function NewerForm({
	open,
	id,
	name,
	onClose,
}: {
	open: boolean
	id: number
	name: string
	onClose: () => void
}) {
	const [trouble, setTrouble] = useState('')
	const router = useRouter()
	return (
		<Ask open={open} onClose={onClose} title={`A newer form of ${name}`}>
			<form
				className="space-y-3"
				action={async (form) => {
					const outcome = await bringANewerForm(id, form)
					if (outcome.ok) router.push(`/layouts/forms/${outcome.id}`)
					else setTrouble(outcome.message)
				}}
			>
				<p className="text-mute">
					Marks that stand where they stood keep their fields. Those that are new, renamed, elsewhere or gone are shown.
				</p>
				<TextField
					label="The form: DOCX, ODT or HTML"
					type="file"
					name="file"
					required
					accept=".docx,.docm,.odt,.html,.htm"
				/>
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				<Button kind="main" type="submit">
					Bring it in
				</Button>
			</form>
		</Ask>
	)
}

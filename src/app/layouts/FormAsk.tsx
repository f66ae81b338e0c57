'use client'
import { useRouter } from 'next/navigation'
import { type ReactNode, useState } from 'react'
import type { Outcome } from '@/core/outcome'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'

type Props = {
	open: boolean
	onClose: () => void
	title: string
	/** What becomes of it. */
	about: string
	bring: (form: FormData) => Promise<Outcome>
	/** What else is asked. */
	children?: ReactNode
}

/** Asks for the file of a form, and goes to the form when it was taken in. */
export function FormAsk({ open, onClose, title, about, bring, children }: Props) {
	const [trouble, setTrouble] = useState('')
	const router = useRouter()
	return (
		<Ask open={open} onClose={onClose} title={title}>
			<form
				className="space-y-3"
				action={async (form) => {
					const outcome = await answered(bring(form))
					if (outcome.ok) router.push(`/layouts/forms/${outcome.id}`)
					else setTrouble(outcome.message)
				}}
			>
				<p className="text-mute">{about}</p>
				<TextField
					label="The form: DOCX, ODT or HTML"
					type="file"
					name="file"
					required
					accept=".docx,.docm,.odt,.html,.htm"
				/>
				{children}
				{trouble && <Notice tone="stop">{trouble}</Notice>}
				<Button kind="main" type="submit">
					Bring it in
				</Button>
			</form>
		</Ask>
	)
}

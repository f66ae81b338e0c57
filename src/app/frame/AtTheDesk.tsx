'use client'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { sitDown } from '@/app/acts/desk'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { TextField } from '@/ui/Field'

/** Who is at the desk, and the way to say that it is somebody else. */
export function AtTheDesk({ name, others }: { name: string; others: string[] }) {
	const [open, setOpen] = useState(false)
	const router = useRouter()
	const sit = async (who: string) => {
		const outcome = await answered(sitDown(who))
		if (!outcome.ok) return
		setOpen(false)
		router.refresh()
	}
	return (
		<div className="border-t border-rule px-4 py-2 text-sm">
			<button type="button" className="w-full text-left hover:underline" onClick={() => setOpen(true)}>
				<span className="text-mute">At the desk: </span>
				<span className="font-semibold">{name}</span>
			</button>
			<Ask open={open} onClose={() => setOpen(false)} title="Who is at the desk?">
				<p className="mb-3 text-mute">The name is kept with everything that is done from here on.</p>
				<div className="mb-4 flex flex-wrap gap-2">
					{others.map((other) => (
						<Button key={other} onClick={() => sit(other)}>
							{other}
						</Button>
					))}
				</div>
				<form action={(form) => sit(String(form.get('name') ?? ''))} className="flex items-end gap-2">
					<TextField label="Another name" name="name" required maxLength={40} />
					<Button kind="main" type="submit">
						Sit down
					</Button>
				</form>
			</Ask>
		</div>
	)
}

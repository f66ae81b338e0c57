'use client'
import { useRouter } from 'next/navigation'
import { sitDown } from '@/app/acts/desk'
import { Button } from '@/ui/Button'
import { TextField } from '@/ui/Field'
import { Mark } from '@/ui/Mark'

/** The first start: the books need a name to keep with each act. */
export function FirstName() {
	const router = useRouter()
	return (
		<main className="mx-auto max-w-md px-6 pt-28">
			<p className="flex items-center gap-2 text-lg font-semibold">
				<Mark /> North Tally
			</p>
			<h1 className="mt-8 text-xl font-semibold">Who is at the desk?</h1>
			<p className="mt-2 mb-4 text-mute">
				These books are new. Your name is kept with everything you do, so that it can be said afterwards who did what.
				There is no sign-in yet: North Tally answers on this machine only.
			</p>
			<form
				action={async (form) => {
					await sitDown(String(form.get('name') ?? ''))
					router.refresh()
				}}
				className="space-y-4"
			>
				<TextField label="Your name" name="name" required maxLength={40} autoFocus />
				<Button kind="main" type="submit">
					Open the books
				</Button>
			</form>
		</main>
	)
}

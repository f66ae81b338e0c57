'use client'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { putFormAway } from '@/app/acts/forms'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { Notice } from '@/ui/Notice'

/** Puts a form away that no layout was made of. */
export function PutAway({ id }: { id: number }) {
	const [trouble, setTrouble] = useState('')
	const router = useRouter()
	return (
		<>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			<Button
				onClick={async () => {
					const outcome = await answered(putFormAway(id))
					if (outcome.ok) router.push('/layouts')
					else setTrouble(outcome.message)
				}}
			>
				Put this form away
			</Button>
		</>
	)
}

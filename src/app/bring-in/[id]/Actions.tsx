'use client'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { accept, drop, readFileAgain, takeBack } from '@/app/acts/bringIn'
import { Ask } from '@/ui/Ask'
import { answered } from '@/ui/answered'
import { Button } from '@/ui/Button'
import { TextField } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { useAwake } from '@/ui/useAwake'
import { useKeys } from '@/ui/useKeys'

type Props = {
	id: number
	/** Names the outcome that is in view. */
	seen: string
	/** What accepting would say; null where there is nothing to accept. */
	words: string | null
	ready: boolean
	canLeave: boolean
	/** Whether what was read of it is lost, so that it is to be read again. */
	lost?: boolean
	/** What taking it back means, and why it cannot be; undefined where that is not asked. */
	back?: { about: string; yes: string; hindered: string | null } | undefined
}

/** Leave it out, accept it, or take it back. */
export function Actions({ id, seen, words, ready, canLeave, lost = false, back }: Props) {
	const [trouble, setTrouble] = useState('')
	const [asking, setAsking] = useState(false)
	const [reason, setReason] = useState('')
	const [acting, start] = useTransition()
	const awake = useAwake()
	const busy = acting || !awake
	const router = useRouter()
	const take = () =>
		start(async () => {
			const outcome = await answered(accept(id, seen))
			setTrouble(outcome.ok ? '' : outcome.message)
		})
	useKeys(words !== null && ready && !busy ? { g: take } : {})
	return (
		<>
			{trouble && <Notice tone="stop">{trouble}</Notice>}
			{canLeave && (
				<Button
					onClick={() =>
						start(async () => {
							await drop(id)
							router.push('/bring-in')
						})
					}
					disabled={busy}
				>
					Leave it out
				</Button>
			)}
			{lost && (
				<Button disabled={busy} onClick={() => start(async () => void (await readFileAgain(id)))}>
					Read it again
				</Button>
			)}
			{back && (
				<Button onClick={() => setAsking(true)} disabled={busy}>
					Take it back
				</Button>
			)}
			{words !== null && (
				<Button kind="main" hint="G" disabled={!ready || busy} onClick={take}>
					{words}
				</Button>
			)}
			<Ask open={asking} onClose={() => setAsking(false)} title="Take the file back">
				<form
					className="space-y-4"
					onSubmit={(event) => {
						event.preventDefault()
						start(async () => {
							const outcome = await answered(takeBack(id, reason))
							setTrouble(outcome.ok ? '' : outcome.message)
							if (outcome.ok) setAsking(false)
						})
					}}
				>
					{back?.hindered ? <Notice tone="stop">{back.hindered}</Notice> : <p>{back?.about}</p>}
					{trouble && <Notice tone="stop">{trouble}</Notice>}
					<TextField label="Why" value={reason} onChange={(event) => setReason(event.target.value)} />
					<div className="flex gap-2">
						<Button kind="grave" type="submit" disabled={busy || reason.trim() === '' || back?.hindered !== null}>
							{back?.yes}
						</Button>
						<Button onClick={() => setAsking(false)}>Not now</Button>
					</div>
				</form>
			</Ask>
		</>
	)
}

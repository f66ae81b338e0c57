'use client'
import { useRouter } from 'next/navigation'
import { useRef, useState } from 'react'
import { Button } from '@/ui/Button'
import { Notice } from '@/ui/Notice'
import { PasteRows } from './PasteRows'

type Begun = { id: number; partSize: number; have: number[]; message?: string }
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** Asks, and asks again where the line breaks: half a minute in all. */
async function asked(path: string, options: RequestInit): Promise<Response> {
	for (let again = 0; ; again++) {
		try {
			return await fetch(path, options)
		} catch (error) {
			if (again >= 7) throw error
			await pause(250 * 2 ** again)
		}
	}
}

/** Sends a file in parts; one that broke off goes on where it was. Gives its id, or why it was not taken. */
async function send(
	file: File,
	onPart: (done: number, of: number) => void,
): Promise<{ id: number } | { message: string }> {
	const begun = await asked('/api/bring-in', {
		method: 'POST',
		headers: { 'content-type': 'application/json' },
		body: JSON.stringify({ name: file.name, size: file.size, changed: file.lastModified }),
	})
	const { id, partSize, have, message }: Begun = await begun.json()
	if (!begun.ok) return { message: message ?? 'The file was not taken.' }
	const parts = Math.ceil(file.size / partSize)
	for (let part = 0; part < parts; part++) {
		onPart(part, parts)
		if (have.includes(part)) continue
		const kept = await asked(`/api/bring-in/${id}/${part}`, {
			method: 'PUT',
			body: file.slice(part * partSize, (part + 1) * partSize),
		})
		if (!kept.ok) return { message: (await kept.json()).message ?? 'A part of it was not taken. Choose it again.' }
	}
	const ended = await asked(`/api/bring-in/${id}`, { method: 'POST' })
	return ended.ok ? { id } : { message: (await ended.json()).message ?? 'The file was not taken.' }
}

/** Takes files that are chosen or dropped, one after the other, and rows that are pasted. */
export function DropFile() {
	const [over, setOver] = useState(false)
	const [sending, setSending] = useState('')
	const [trouble, setTrouble] = useState<string[]>([])
	const chooser = useRef<HTMLInputElement>(null)
	const router = useRouter()
	const bring = async (files: File[]) => {
		setTrouble([])
		let last = 0
		for (const file of files) {
			setSending(file.name)
			try {
				const sent = await send(file, (done, of) =>
					setSending(of > 3 ? `${file.name}: ${Math.round((100 * done) / of)}%` : file.name),
				)
				if ('id' in sent) last = sent.id
				else setTrouble((known) => [...known, sent.message])
			} catch {
				setTrouble((known) => [
					...known,
					`${file.name} could not be handed over: the line is broken. Choose it again when it is back, and it goes on where it was.`,
				])
			}
		}
		setSending('')
		if (last && files.length === 1) router.push(`/bring-in/${last}`)
		else router.refresh()
	}
	return (
		<div className="space-y-3 px-5 pb-4">
			<section
				aria-label="Drop files here"
				onDragOver={(event) => {
					event.preventDefault()
					setOver(true)
				}}
				onDragLeave={() => setOver(false)}
				onDrop={(event) => {
					event.preventDefault()
					setOver(false)
					void bring([...event.dataTransfer.files])
				}}
				className={`flex flex-wrap items-center gap-4 rounded border border-dashed px-5 py-5 ${over ? 'border-plum bg-plum-wash' : 'border-mute bg-sheet'}`}
			>
				<Button kind="main" onClick={() => chooser.current?.click()} disabled={sending !== ''}>
					Choose a file
				</Button>
				<PasteRows onRows={(file) => void bring([file])} />
				<p className="text-mute">
					{sending ? `Handing over ${sending} …` : 'or drop files here. Nothing enters the books before you accept it.'}
				</p>
				<input
					ref={chooser}
					type="file"
					multiple
					aria-label="File to bring in"
					className="sr-only"
					tabIndex={-1}
					onChange={(event) => {
						void bring([...(event.target.files ?? [])])
						event.target.value = ''
					}}
				/>
			</section>
			{trouble.map((words) => (
				<Notice key={words} tone="stop">
					{words}
				</Notice>
			))}
		</div>
	)
}

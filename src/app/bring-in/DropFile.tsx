'use client'
import { useRouter } from 'next/navigation'
import { useRef, useState } from 'react'
import { Button } from '@/ui/Button'
import { Notice } from '@/ui/Notice'

/** Takes files that are chosen or dropped, one after the other. */
export function DropFile() {
	const [over, setOver] = useState(false)
	const [reading, setReading] = useState('')
	const [trouble, setTrouble] = useState<string[]>([])
	const chooser = useRef<HTMLInputElement>(null)
	const router = useRouter()
	const bring = async (files: File[]) => {
		setTrouble([])
		let last = ''
		for (const file of files) {
			setReading(file.name)
			const form = new FormData()
			form.set('file', file)
			try {
				const answer = await fetch('/api/bring-in', { method: 'POST', body: form })
				const result: { id?: number; again?: boolean; message?: string } = await answer.json()
				if (result.id) last = `/bring-in/${result.id}${result.again ? '?again=1' : ''}`
				else setTrouble((known) => [...known, result.message ?? 'The file was not taken.'])
			} catch {
				setTrouble((known) => [...known, `${file.name} could not be handed over. Choose it again.`])
			}
		}
		setReading('')
		if (last && files.length === 1) router.push(last)
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
				className={`flex items-center gap-4 rounded border border-dashed px-5 py-5 ${over ? 'border-plum bg-plum-wash' : 'border-mute bg-sheet'}`}
			>
				<Button kind="main" onClick={() => chooser.current?.click()} disabled={reading !== ''}>
					Choose a file
				</Button>
				<p className="text-mute">
					{reading ? `Reading ${reading} …` : 'or drop files here. Nothing enters the books before you accept it.'}
				</p>
				<input
					ref={chooser}
					type="file"
					multiple
					accept=".csv,.txt,.tsv,text/csv"
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

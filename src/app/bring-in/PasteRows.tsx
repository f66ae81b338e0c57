'use client'
import { useState } from 'react'
import { Ask } from '@/ui/Ask'
import { Button } from '@/ui/Button'
import { TextArea } from '@/ui/Field'

/** Rows copied from a sheet, with or without the names of their columns, taken in as a file of their own. */
export function PasteRows({ onRows }: { onRows: (file: File) => void }) {
	const [open, setOpen] = useState(false)
	const [text, setText] = useState('')
	const rows = text.split(/\r?\n/).filter((line) => line.trim() !== '').length
	return (
		<>
			<Button onClick={() => setOpen(true)}>Paste rows</Button>
			<Ask open={open} onClose={() => setOpen(false)} title="Paste rows from a sheet" wide>
				<form
					className="space-y-4"
					onSubmit={(event) => {
						event.preventDefault()
						const now = new Date()
						onRows(
							new File([text], `pasted rows ${now.toISOString().slice(0, 16).replace('T', ' ').replace(':', '.')}.txt`),
						)
						setOpen(false)
						setText('')
					}}
				>
					<TextArea
						label="Rows"
						rows={10}
						value={text}
						spellCheck={false}
						onChange={(event) => setText(event.target.value)}
						help="With the names of the columns above them, or without: then you say which is which."
					/>
					<div className="flex gap-2">
						<Button kind="main" type="submit" disabled={rows === 0}>
							{rows === 1 ? 'Look at 1 row' : `Look at ${rows} rows`}
						</Button>
						<Button onClick={() => setOpen(false)}>Not now</Button>
					</div>
				</form>
			</Ask>
		</>
	)
}

'use client'
import { useState } from 'react'
import { setRegister } from '@/app/acts'
import { registerNumber } from '@/core/register'
import { TextField } from '@/ui/Field'
import { SavedForm } from '@/ui/SavedForm'

type Register = { prefix: string; digits: number; next: number }

export function RegisterForm({ register, isNew }: { register: Register & { kind: string }; isNew: boolean }) {
	const [shape, setShape] = useState<Register>(register)
	return (
		<div className="max-w-3xl px-5 pb-5">
			<SavedForm save={setRegister} label={isNew ? 'Open the register' : 'Change the register'} saved="Saved.">
				<input type="hidden" name="kind" value="invoice" />
				<div className="grid grid-cols-3 gap-4">
					<TextField
						label="Prefix"
						name="prefix"
						value={shape.prefix}
						onChange={(event) => setShape({ ...shape, prefix: event.target.value })}
						className="figures"
					/>
					<TextField
						label="Digits"
						name="digits"
						type="number"
						min={1}
						max={12}
						value={shape.digits}
						onChange={(event) => setShape({ ...shape, digits: Number(event.target.value) })}
						className="figures"
						help="Padded with zeros"
					/>
					<TextField
						label="Next number"
						name="next"
						type="number"
						min={1}
						value={shape.next}
						onChange={(event) => setShape({ ...shape, next: Number(event.target.value) })}
						className="figures"
					/>
				</div>
				<p className="text-mute">
					The next invoice will be{' '}
					<span className="figures font-semibold text-ink">{registerNumber(shape, shape.next)}</span>. Numbers are given
					in the same moment as the documents are frozen, so none is used twice or skipped.
				</p>
			</SavedForm>
		</div>
	)
}

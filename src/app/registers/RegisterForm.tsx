'use client'
import { useState } from 'react'
import { setRegister } from '@/app/acts/firm'
import { type RegisterShape, registerNumber } from '@/core/register'
import { TextField } from '@/ui/Field'
import { SavedForm } from '@/ui/SavedForm'

type Shape = RegisterShape & { next: number }
type Props = { register: Shape & { kind: string }; isNew: boolean; workYear: number }

/** How a register writes its numbers; what the next one will be is shown before it is given. */
export function RegisterForm({ register, isNew, workYear }: Props) {
	const [from, setFrom] = useState(register.next)
	const [shape, setShape] = useState<Shape>(register)
	// Saving may move the next number: the form takes it over, and goes on saying what came of the saving.
	if (from !== register.next) {
		setFrom(register.next)
		setShape(register)
	}
	const set = (part: Partial<Shape>) => setShape({ ...shape, ...part })
	return (
		<div className="max-w-3xl px-5 pb-5">
			<SavedForm save={setRegister} label={isNew ? 'Open the register' : 'Change the register'} saved="Saved.">
				<input type="hidden" name="kind" value={register.kind} />
				<div className="grid grid-cols-[1.4fr_1fr_1fr_1fr_auto] gap-4">
					<TextField
						label="Prefix"
						name="prefix"
						value={shape.prefix}
						onChange={(event) => set({ prefix: event.target.value })}
						className="figures"
						help="{year} stands for the year"
					/>
					<TextField
						label="Digits"
						name="digits"
						type="number"
						min={1}
						max={12}
						value={shape.digits}
						onChange={(event) => set({ digits: Number(event.target.value) })}
						className="figures"
						help="Padded with zeros"
					/>
					<TextField
						label="Next number"
						name="next"
						type="number"
						min={1}
						value={shape.next}
						onChange={(event) => set({ next: Number(event.target.value) })}
						className="figures"
					/>
					<TextField
						label="First number"
						name="first"
						type="number"
						min={1}
						value={shape.first}
						onChange={(event) => {
							const first = Number(event.target.value)
							set(isNew ? { first, next: first } : { first })
						}}
						className="figures"
						help={shape.yearly === 1 ? 'Each year begins with it' : 'It began with it'}
					/>
					<label className="mt-7 flex items-center gap-2 whitespace-nowrap">
						<input
							type="checkbox"
							name="yearly"
							checked={shape.yearly === 1}
							onChange={(event) => set({ yearly: event.target.checked ? 1 : 0 })}
							className="size-4 accent-plum"
						/>
						Begins again each year
					</label>
				</div>
				<p className="text-mute">
					The next one will be{' '}
					<span className="figures font-semibold text-ink">{registerNumber(shape, shape.next, workYear)}</span>. Numbers
					are given in the same moment as the documents are frozen, so none is used twice or skipped.
				</p>
			</SavedForm>
		</div>
	)
}

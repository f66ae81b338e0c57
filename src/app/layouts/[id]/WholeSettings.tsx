'use client'
import type { LayoutFinding } from '@/layout/check'
import { removeColour, renameColour } from '@/layout/edit'
import type { Layout } from '@/layout/schema'
import { families } from '@/layout/schemaParts'
import { Button } from '@/ui/Button'
import { inputLook } from '@/ui/Field'
import { Notice } from '@/ui/Notice'
import { ChooseFile, Pick, Points } from './parts'
import { ReckonedEdit } from './ReckonedEdit'

const familyNames: Record<(typeof families)[number], string> = {
	'source-sans': 'Source Sans',
	'source-serif': 'Source Serif',
	'libre-franklin': 'Libre Franklin',
	barlow: 'Barlow',
}

type Props = {
	layout: Layout
	findings: LayoutFinding[]
	onChange: (layout: Layout, words: string) => void
	onChoose: (id: string) => void
}

/** What is so of the whole paper: what is to be mended, its size, colours and typefaces. */
export function WholeSettings({ layout, findings, onChange, onChoose }: Props) {
	const { page, palette } = layout
	// What is left out where it is empty is mostly meant so: it is told in one line, and listed when asked for.
	const empty = findings.filter(({ code }) => code === 'empty')
	const grave = findings.filter(({ code }) => code !== 'empty')
	const margin = (side: keyof typeof page.margins) => (value: number | undefined) =>
		onChange({ ...layout, page: { ...page, margins: { ...page.margins, [side]: value ?? 0 } } }, 'changed the margins')
	return (
		<div className="space-y-4">
			<h2 className="text-lg font-semibold">The whole paper</h2>
			{grave.length === 0 ? (
				<Notice tone="tie">Nothing is wrong with it on this paper.</Notice>
			) : (
				<ul className="space-y-1.5">
					{grave.map(({ level, words, piece }) => (
						<li key={`${piece} ${words}`}>
							<Notice tone={level}>
								{words}{' '}
								{piece && (
									<button type="button" className="underline" onClick={() => onChoose(piece)}>
										Show it
									</button>
								)}
							</Notice>
						</li>
					))}
				</ul>
			)}
			{empty.length > 0 && (
				<details className="text-sm">
					<summary className="text-ochre">
						{empty.length === 1
							? 'One field is empty on some papers'
							: `${empty.length} fields are empty on some papers`}
					</summary>
					<ul className="mt-1 space-y-1.5">
						{empty.map(({ words, piece }) => (
							<li key={`${piece} ${words}`} className="text-mute">
								{words}{' '}
								<button type="button" className="text-plum underline" onClick={() => onChoose(piece)}>
									Show it
								</button>
							</li>
						))}
					</ul>
				</details>
			)}
			<div className="grid grid-cols-2 gap-2">
				<Pick
					label="Paper"
					value={page.size}
					options={[
						['A4', 'A4'],
						['Letter', 'US Letter'],
						['A5', 'A5'],
					]}
					onChange={(size) => onChange({ ...layout, page: { ...page, size } }, 'changed the paper')}
				/>
				<Pick
					label="Held"
					value={page.across ? 'across' : 'upright'}
					options={[
						['upright', 'upright'],
						['across', 'across'],
					]}
					onChange={(held) => onChange({ ...layout, page: { ...page, across: held === 'across' } }, 'turned the paper')}
				/>
				<Points label="Margin above" value={page.margins.top} most={300} onChange={margin('top')} />
				<Points label="Margin below" value={page.margins.bottom} most={300} onChange={margin('bottom')} />
				<Points label="Margin left" value={page.margins.left} most={300} onChange={margin('left')} />
				<Points label="Margin right" value={page.margins.right} most={300} onChange={margin('right')} />
			</div>
			<div>
				<p className="mb-1 text-sm font-semibold">Letter paper</p>
				{layout.under ? (
					<p className="flex items-center gap-2 text-sm">
						<a
							href={`/api/images/${layout.under}`}
							target="_blank"
							rel="noreferrer"
							className="flex-1 text-plum underline"
						>
							the PDF that lies under everything
						</a>
						<button
							type="button"
							aria-label="Take the letter paper away"
							className="px-1 text-mute hover:text-brick"
							onClick={() => {
								const { under: _, ...rest } = layout
								onChange(rest, 'took the letter paper away')
							}}
						>
							×
						</button>
					</p>
				) : (
					<p className="mb-1 text-sm text-mute">none: a PDF of one page, or of a first and a following one</p>
				)}
				<ChooseFile
					label={layout.under ? 'Another' : 'Lay a PDF under everything'}
					accept="application/pdf"
					onFile={(under) => onChange({ ...layout, under }, 'laid a letter paper under it')}
				/>
			</div>
			<div>
				<p className="mb-1 text-sm font-semibold">Colours</p>
				<ul className="space-y-1">
					{palette.map(({ name, color }, index) => (
						<li key={name} className="flex items-center gap-2">
							<input
								type="color"
								aria-label={`Colour ${name}`}
								className="h-7 w-9 rounded border border-rule bg-sheet"
								value={`#${color}`}
								onChange={(event) =>
									onChange(
										{
											...layout,
											palette: palette.map((own, at) =>
												at === index ? { ...own, color: event.target.value.slice(1) } : own,
											),
										},
										`changed the colour ${name}`,
									)
								}
							/>
							<input
								aria-label={`Name of the colour ${name}`}
								className={`${inputLook} min-w-0 flex-1`}
								key={name}
								defaultValue={name}
								maxLength={40}
								onBlur={(event) => {
									const next = renameColour(layout, name, event.target.value.trim())
									if (next === layout) event.target.value = name
									else onChange(next, `renamed the colour ${name}`)
								}}
							/>
							<button
								type="button"
								aria-label={`Take the colour ${name} away`}
								title={`What is ${name} becomes ${palette.find((own) => own.name !== name)?.name ?? 'another'}`}
								disabled={palette.length === 1}
								className="px-1 text-mute hover:text-brick disabled:opacity-30"
								onClick={() => onChange(removeColour(layout, name), `took the colour ${name} away`)}
							>
								×
							</button>
						</li>
					))}
				</ul>
				{palette.length < 6 && (
					<form
						className="mt-2 flex gap-1"
						action={(form) => {
							const name = String(form.get('name') ?? '').trim()
							if (name !== '' && !palette.some((own) => own.name === name))
								onChange({ ...layout, palette: [...palette, { name, color: '5a5a5a' }] }, `added the colour ${name}`)
						}}
					>
						<input
							name="name"
							aria-label="Name of another colour"
							placeholder="its name"
							maxLength={40}
							className={inputLook}
						/>
						<Button type="submit">Add</Button>
					</form>
				)}
			</div>
			<div className="grid grid-cols-2 gap-2">
				<Pick
					label="Typeface"
					value={layout.text.family}
					options={families.map((family) => [family, familyNames[family]] as const)}
					onChange={(family) => onChange({ ...layout, text: { ...layout.text, family } }, 'changed the typeface')}
				/>
				<Pick
					label="Second typeface"
					value={layout.display ?? 'none'}
					options={[['none', 'none'] as const, ...families.map((family) => [family, familyNames[family]] as const)]}
					onChange={(family) => {
						const { display: _, ...rest } = layout
						onChange(family === 'none' ? rest : { ...rest, display: family }, 'changed the second typeface')
					}}
				/>
				<Points
					label="Usual size"
					value={layout.text.size}
					least={7}
					most={40}
					onChange={(size) => size && onChange({ ...layout, text: { ...layout.text, size } }, 'changed the usual size')}
				/>
				<Pick
					label="Usual colour"
					value={layout.text.color}
					options={palette.map(({ name }) => [name, name] as const)}
					onChange={(color) => onChange({ ...layout, text: { ...layout.text, color } }, 'changed the usual colour')}
				/>
			</div>
			<ReckonedEdit onChange={onChange} />
		</div>
	)
}

'use client'
import { EditorContent, useEditor } from '@tiptap/react'
import { getNonce } from 'get-nonce'
import { useEffect, useMemo, useRef, useState } from 'react'
import { FieldPick } from '@/app/layoutParts/FieldPick'
import { useMaking } from '@/app/layoutParts/making'
import type { Of } from '@/layout/fieldTypes'
import type { Inline, Paragraph } from '@/layout/schemaParts'
import { inputLook } from '@/ui/Field'
import { ChipSettings } from './ChipSettings'
import { fromDoc, textExtensions, toDoc } from './richText'

type Props = {
	label: string
	paragraphs: readonly Paragraph[]
	onChange: (paragraphs: Paragraph[]) => void
	/** Whose fields may stand here, beside those of the whole paper. */
	of?: Of
	/** One paragraph alone. */
	single?: boolean
	/** Written on the paper itself, as it looks there; sizes in points of the paper. */
	onPaper?: { size: number; color: string; bold: boolean; align: 'left' | 'center' | 'right' }
}

/** Words with fields as chips: bold, italic, size and colour of what is selected; fields from a list with search. */
export function Rich({ label, paragraphs, onChange, of, single = false, onPaper }: Props) {
	const { fields, layout } = useMaking()
	const [picking, setPicking] = useState(false)
	const [chip, setChip] = useState<{ at: number; inline: Extract<Inline, { field: string }> } | null>(null)
	// What stands in the box for those outside, and what was told to them but has not come back yet.
	const last = useRef(JSON.stringify(paragraphs))
	const told = useRef<string[]>([])
	const hear = useRef(onChange)
	hear.current = onChange
	const extensions = useMemo(() => textExtensions(fields, single), [fields, single])
	const editor = useEditor(
		{
			extensions,
			content: toDoc(paragraphs),
			immediatelyRender: false,
			injectNonce: getNonce(),
			shouldRerenderOnTransaction: true,
			autofocus: onPaper ? 'end' : false,
			editorProps: {
				attributes: {
					class: onPaper
						? 'whitespace-pre-wrap outline-none'
						: `${inputLook} ${single ? 'min-h-9' : 'min-h-16'} whitespace-pre-wrap`,
					'aria-label': label,
					role: 'textbox',
					'aria-multiline': String(!single),
				},
			},
			onUpdate: ({ editor: own }) => {
				const next = fromDoc(own.getJSON())
				last.current = JSON.stringify(next)
				told.current.push(last.current)
				hear.current(next)
			},
			onSelectionUpdate: ({ editor: own }) => {
				const { selection } = own.state
				const node =
					'node' in selection
						? (selection.node as { type: { name: string }; attrs: { inline: Extract<Inline, { field: string }> } })
						: null
				setChip(node?.type.name === 'chip' ? { at: selection.from, inline: node.attrs.inline } : null)
			},
		},
		[extensions],
	)
	// What was changed elsewhere, as when a change is taken back, comes in. What was told from here comes back late while one
	// writes fast: it is no change, and setting it would throw the cursor to the beginning.
	useEffect(() => {
		const now = JSON.stringify(paragraphs)
		const echo = told.current.lastIndexOf(now)
		if (echo >= 0) told.current.splice(0, echo + 1)
		if (!editor || editor.isDestroyed || echo >= 0 || now === last.current) return
		told.current = []
		last.current = now
		editor.commands.setContent(toDoc(paragraphs), { emitUpdate: false })
	}, [editor, paragraphs])
	if (!editor) return null
	const look = editor.getAttributes('look')
	const setLook = (more: Record<string, unknown>) => {
		const next = { ...look, ...more }
		const none = Object.values(next).every((value) => value === null || value === undefined)
		if (none) editor.chain().focus().unsetMark('look').run()
		else editor.chain().focus().setMark('look', next).run()
	}
	const tool =
		'rounded-sm border border-rule bg-sheet px-1.5 text-sm hover:border-ink aria-pressed:border-plum aria-pressed:bg-plum-wash'
	return (
		<div>
			{!onPaper && <p className="mb-1 text-sm font-semibold">{label}</p>}
			<div
				role="toolbar"
				aria-label={`How ${label.toLowerCase()} looks`}
				className={
					onPaper
						? 'absolute bottom-full left-0 mb-1 flex w-max items-center gap-1 rounded border border-rule bg-paper p-1 shadow'
						: 'mb-1 flex flex-wrap items-center gap-1'
				}
				onMouseDown={(event) => event.target instanceof HTMLButtonElement && event.preventDefault()}
			>
				<button type="button" className={tool} onClick={() => setPicking(true)}>
					Put in a field
				</button>
				<button
					type="button"
					className={`${tool} font-bold`}
					aria-label="Bold"
					aria-pressed={editor.isActive('bold')}
					onClick={() => editor.chain().focus().toggleBold().run()}
				>
					b
				</button>
				<button
					type="button"
					className={`${tool} italic`}
					aria-label="Italic"
					aria-pressed={editor.isActive('italic')}
					onClick={() => editor.chain().focus().toggleItalic().run()}
				>
					i
				</button>
				<button
					type="button"
					className={`${tool} underline`}
					aria-label="Underlined"
					aria-pressed={editor.isActive('underline')}
					onClick={() => editor.chain().focus().toggleUnderline().run()}
				>
					u
				</button>
				<input
					aria-label="Size of what is selected, points"
					placeholder="pt"
					className="w-11 rounded-sm border border-rule bg-sheet px-1 text-sm"
					defaultValue={look.size ?? ''}
					key={`size ${look.size}`}
					onBlur={(event) => {
						const size = Number(event.target.value)
						if ((look.size ?? 0) !== size) setLook({ size: size >= 4 && size <= 96 ? size : null })
					}}
				/>
				<select
					aria-label="Colour of what is selected"
					className="max-w-20 rounded-sm border border-rule bg-sheet text-sm"
					value={look.color ?? ''}
					onChange={(event) => setLook({ color: event.target.value || null })}
				>
					<option value="">colour</option>
					{layout.palette.map(({ name }) => (
						<option key={name} value={name}>
							{name}
						</option>
					))}
				</select>
				{!single && (
					<select
						aria-label="Alignment of the paragraph"
						className="rounded-sm border border-rule bg-sheet text-sm"
						value={editor.getAttributes('paragraph').align ?? ''}
						onChange={(event) =>
							editor
								.chain()
								.focus()
								.updateAttributes('paragraph', { align: event.target.value || null })
								.run()
						}
					>
						<option value="">as the piece</option>
						<option value="left">left</option>
						<option value="center">middle</option>
						<option value="right">right</option>
					</select>
				)}
				{!single && (
					<select
						aria-label="List"
						className="rounded-sm border border-rule bg-sheet text-sm"
						value={editor.getAttributes('paragraph').list ?? ''}
						onChange={(event) =>
							editor
								.chain()
								.focus()
								.updateAttributes('paragraph', { list: event.target.value || null })
								.run()
						}
					>
						<option value="">no list</option>
						<option value="dots">dots</option>
						<option value="numbers">numbers</option>
					</select>
				)}
			</div>
			<EditorContent
				editor={editor}
				style={
					onPaper && {
						// The page is the container; a point of the paper is its share of the page's width.
						fontSize: `calc(${onPaper.size} * var(--point))`,
						lineHeight: 1.28,
						color: `#${onPaper.color}`,
						fontWeight: onPaper.bold ? 700 : 400,
						textAlign: onPaper.align,
					}
				}
			/>
			{chip && (
				<ChipSettings
					inline={chip.inline}
					onChange={(inline) => {
						editor.view.dispatch(editor.state.tr.setNodeAttribute(chip.at, 'inline', inline))
						setChip({ ...chip, inline })
					}}
				/>
			)}
			<FieldPick
				open={picking}
				of={of}
				onClose={() => setPicking(false)}
				onPick={(field) => {
					setPicking(false)
					editor
						.chain()
						.focus()
						.insertContent({ type: 'chip', attrs: { inline: { field } } })
						.run()
				}}
			/>
		</div>
	)
}

/** One line of text and fields. */
export const RichLine = ({
	inlines,
	onChange,
	...rest
}: {
	label: string
	inlines: readonly Inline[]
	onChange: (inlines: Inline[]) => void
	of?: Of
}) => (
	<Rich
		{...rest}
		single
		paragraphs={[{ runs: [...inlines] }]}
		onChange={(paragraphs) => onChange(paragraphs.flatMap(({ runs }) => runs))}
	/>
)

'use client'
import { useEffect, useId, useRef, useState } from 'react'
import { inputLook } from './Field'

type Props = {
	label: string
	name: string
	/** Text with {field} marks; each is shown as a chip, which can be put in and taken out but not misspelt. */
	initial: string
	fields: readonly string[]
	lines?: number
	/** Hears the text after each change. */
	onText: (text: string) => void
	/** Given how a field is put in at the cursor. */
	onReady?: (put: (field: string) => void) => void
	onFocus?: () => void
}

const chipLook = 'mx-0.5 rounded-sm border border-rule bg-plum-wash px-1 text-plum select-all'

function chipOf(field: string): HTMLElement {
	const chip = document.createElement('span')
	chip.contentEditable = 'false'
	chip.dataset.field = field
	chip.className = chipLook
	chip.textContent = field
	return chip
}

function fill(box: HTMLElement, text: string, fields: readonly string[]): void {
	box.replaceChildren(
		...text.split(/(\{[^{}]+\})/).map((part) => {
			const field = fields.find((known) => `{${known}}` === part.toLowerCase())
			return field ? chipOf(field) : document.createTextNode(part)
		}),
	)
}

/** The text of the box, chips as their marks. */
function read(node: Node): string {
	if (node.nodeType === Node.TEXT_NODE) return node.textContent ?? ''
	if (node instanceof HTMLElement && node.dataset.field) return `{${node.dataset.field}}`
	if (node.nodeName === 'BR') return '\n'
	return [...node.childNodes].map(read).join('')
}

/** A text box whose merge fields are chips. */
export function ChipText({ label, name, initial, fields, lines = 1, onText, onReady, onFocus }: Props) {
	const id = useId()
	const box = useRef<HTMLDivElement>(null)
	const [kept, setKept] = useState(initial)
	const [ready, setReady] = useState(false)
	const tell = () => {
		if (!box.current) return
		const text = read(box.current).replace(/\n$/, '')
		setKept(text)
		onText(text)
	}
	// The box keeps its own text: React draws it once, and hears of every change. Until it is filled nothing can be typed into it.
	useEffect(() => {
		const own = box.current
		if (!own) return
		fill(own, initial, fields)
		setKept(initial)
		setReady(true)
		onReady?.((field) => {
			const selection = window.getSelection()
			const range = selection?.rangeCount ? selection.getRangeAt(0) : null
			const chip = chipOf(field)
			if (range && own.contains(range.commonAncestorContainer)) {
				range.deleteContents()
				range.insertNode(chip)
				range.setStartAfter(chip)
				range.collapse(true)
			} else own.append(chip)
			own.focus()
			own.dispatchEvent(new Event('input', { bubbles: true }))
		})
	}, [initial, fields])
	return (
		<div>
			<span id={id} className="mb-1 block text-sm font-semibold">
				{label}
			</span>
			{/* biome-ignore lint/a11y/useSemanticElements: a text area cannot hold chips */}
			<div
				ref={box}
				role="textbox"
				tabIndex={0}
				aria-labelledby={id}
				aria-multiline={lines > 1}
				aria-disabled={!ready}
				contentEditable={ready && 'plaintext-only'}
				suppressContentEditableWarning
				onInput={tell}
				onFocus={onFocus}
				onKeyDown={(event) => lines === 1 && event.key === 'Enter' && event.preventDefault()}
				style={{ minHeight: `${lines * 1.5 + 0.9}em` }}
				className={`${inputLook} whitespace-pre-wrap`}
			/>
			<input type="hidden" name={name} value={kept} readOnly />
		</div>
	)
}

import type { ButtonHTMLAttributes, ReactNode } from 'react'
import { KeyHint } from './KeyHint'

type Kind = 'main' | 'plain' | 'grave' | 'bare'

const looks: Record<Kind, string> = {
	main: 'border-plum bg-plum text-sheet font-semibold hover:bg-[#47203f] disabled:opacity-45',
	plain: 'border-rule bg-sheet text-ink hover:border-ink disabled:text-mute disabled:hover:border-rule',
	grave: 'border-brick bg-sheet text-brick font-semibold hover:bg-brick-wash',
	bare: 'border-transparent text-plum hover:underline px-1',
}

/** Classes of a button, for links that act as one. */
export const buttonLook = (kind: Kind = 'plain'): string =>
	`inline-flex items-center gap-2 rounded border px-3 py-1.5 whitespace-nowrap ${looks[kind]}`

type Props = ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind; hint?: string; children: ReactNode }

/** A button says what will happen; the one action of a screen is `main`. */
export function Button({ kind = 'plain', hint, children, type = 'button', className = '', ...rest }: Props) {
	return (
		<button type={type} className={`${buttonLook(kind)} ${className}`} {...rest}>
			{children}
			{hint && <KeyHint dark={kind === 'main'}>{hint}</KeyHint>}
		</button>
	)
}

/** The key that does it. */
export function KeyHint({ children, dark = false }: { children: string; dark?: boolean }) {
	return (
		<kbd
			className={`figures rounded-sm border px-1 text-[11px] leading-4 ${dark ? 'border-[#a583a0] text-sheet' : 'border-rule border-b-2 bg-sheet text-mute'}`}
		>
			{children}
		</kbd>
	)
}

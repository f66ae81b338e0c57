'use client'
import { useVirtualizer } from '@tanstack/react-virtual'
import { type ReactNode, useEffect, useRef } from 'react'

type Props<Row> = {
	label: string
	rows: Row[]
	render: (row: Row, index: number) => ReactNode
	/** Words for a list without rows. */
	empty: string
	rowHeight?: number
	/** Index of the selected row, kept in view. */
	selected?: number
	onSelect?: (index: number) => void
	rowClass?: (row: Row) => string
}

/** A list of any length: only the rows in view are drawn. */
export function LongList<Row extends { id: number }>({
	label,
	rows,
	render,
	empty,
	rowHeight = 32,
	selected,
	onSelect,
	rowClass,
}: Props<Row>) {
	const box = useRef<HTMLDivElement>(null)
	const virtual = useVirtualizer({
		count: rows.length,
		getScrollElement: () => box.current,
		estimateSize: () => rowHeight,
		overscan: 12,
		initialRect: { width: 700, height: 900 },
	})
	const { scrollToIndex } = virtual
	useEffect(() => {
		if (selected !== undefined && selected >= 0) scrollToIndex(selected, { align: 'auto' })
	}, [selected, scrollToIndex])
	if (rows.length === 0) return <p className="flex-1 bg-sheet px-5 py-4 text-mute">{empty}</p>
	const chooses = onSelect !== undefined
	return (
		// biome-ignore lint/a11y/useAriaPropsSupportedByRole: it is a listbox or a named region, as its use asks
		<div
			ref={box}
			className="scrolls min-h-0 flex-1 bg-sheet text-sm"
			tabIndex={0}
			role={chooses ? 'listbox' : 'region'}
			aria-label={label}
			aria-activedescendant={
				chooses && selected !== undefined && rows[selected] ? `row-${rows[selected].id}` : undefined
			}
		>
			<div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
				{virtual.getVirtualItems().map(({ index, start, size }) => {
					const row = rows[index]
					if (!row) return null
					const current = index === selected
					return (
						// biome-ignore lint/a11y/noStaticElementInteractions: an option when the list chooses; the screen's keys move through it
						// biome-ignore lint/a11y/useKeyWithClickEvents: the same
						<div
							key={row.id}
							id={`row-${row.id}`}
							{...(chooses
								? {
										role: 'option',
										'aria-selected': current,
										'aria-setsize': rows.length,
										'aria-posinset': index + 1,
										tabIndex: -1,
									}
								: {})}
							onClick={() => onSelect?.(index)}
							style={{
								position: 'absolute',
								top: 0,
								left: 0,
								right: 0,
								height: size,
								transform: `translateY(${start}px)`,
							}}
							className={`border-b border-rule-soft ${current ? 'bg-plum-wash shadow-[inset_3px_0_0_var(--color-plum)]' : ''} ${chooses ? 'cursor-default' : ''} ${rowClass?.(row) ?? ''}`}
						>
							{render(row, index)}
						</div>
					)
				})}
			</div>
		</div>
	)
}

'use client'
import { symbols } from '@/layout/pieces/code'
import { symbologies } from '@/layout/symbologies'
import { aligns, type FormOf, Pick, Points } from '../parts'
import { RichLine } from '../Rich'

export function CodeForm({ piece, put }: FormOf<'code'>) {
	return (
		<>
			<Pick
				label="Symbol"
				value={piece.symbol}
				options={symbols.map(
					(one) => [one, one === 'payment' ? 'payment code (EPC069-12)' : symbologies[one].name] as const,
				)}
				onChange={(symbol) => put({ symbol })}
			/>
			{piece.symbol === 'payment' ? (
				<p className="text-sm text-mute">
					Put together from the firm’s IBAN, the amount due in euro and the number. It is left out where one of them is
					missing.
				</p>
			) : (
				<RichLine label="What it says" inlines={piece.value} onChange={(value) => put({ value })} />
			)}
			<div className="grid grid-cols-2 gap-2">
				<Points label="Width" value={piece.width} least={15} most={500} onChange={(width) => width && put({ width })} />
				{piece.symbol !== 'payment' && symbologies[piece.symbol].bars && (
					<Points
						label="Height"
						value={piece.height}
						none="36"
						least={10}
						most={200}
						onChange={(height) => put({ height })}
					/>
				)}
				<Pick label="Set" value={piece.align ?? 'left'} options={aligns} onChange={(align) => put({ align })} />
			</div>
		</>
	)
}

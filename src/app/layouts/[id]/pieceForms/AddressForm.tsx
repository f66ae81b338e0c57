'use client'
import { windows } from '@/layout/pieces/address'
import { aligns, type FormOf, Pick, Points, Tick } from '../parts'

export function AddressForm({ piece, put }: FormOf<'address'>) {
	return (
		<div className="grid grid-cols-2 gap-2">
			<Pick
				label="Whose"
				value={piece.of}
				options={[
					['customer', 'the customer’s'],
					['delivery', 'where goods go'],
					['issuer', 'the firm’s'],
				]}
				onChange={(of) => put({ of })}
			/>
			<Pick
				label="As"
				value={piece.as ?? 'block'}
				options={[
					['block', 'a block'],
					['line', 'one line'],
				]}
				onChange={(as) => put({ as })}
			/>
			<Pick
				label="Country"
				value={piece.country ?? 'abroad'}
				options={[
					['abroad', 'where abroad'],
					['always', 'always'],
					['never', 'never'],
				]}
				onChange={(country) => put({ country })}
			/>
			<Pick
				label="In the window of"
				value={piece.window ?? 'none'}
				options={[
					['none', 'no envelope'],
					...(Object.entries(windows) as [keyof typeof windows, { name: string }][]).map(
						([key, { name }]) => [key, name] as const,
					),
				]}
				onChange={(window) => put({ window: window === 'none' ? undefined : window })}
			/>
			<Points label="Size" value={piece.size} none="usual" least={4} most={40} onChange={(size) => put({ size })} />
			<Points
				label="Size of the name"
				value={piece.nameSize}
				none="as the rest"
				least={4}
				most={40}
				onChange={(nameSize) => put({ nameSize })}
			/>
			<Pick label="Set" value={piece.align ?? 'left'} options={aligns} onChange={(align) => put({ align })} />
			<Tick label="Sender in a line above" value={piece.back} onChange={(back) => put({ back })} />
		</div>
	)
}

'use client'
import { useMaking } from '@/app/layoutParts/making'
import { hasField } from '@/layout/fields'
import type { Piece } from '@/layout/schema'
import { symbols, windows } from '@/layout/schema'
import { Button } from '@/ui/Button'
import { LinesSettings } from './LinesSettings'
import { aligns, ChooseFile, Colour, Pick, Points, type Put, SaidEdit, Tick } from './parts'
import { RichLine } from './Rich'
import { RowsOwn } from './RowsOwn'
import { TotalsOwn } from './TotalsOwn'
import { WordsOwn } from './WordsOwn'

/** What a piece has that others have not. */
export function PieceOwn({ piece, put }: { piece: Piece; put: Put }) {
	const { fields, layout } = useMaking()
	const pictureFields = [...fields.values()].filter(
		(field) =>
			field.type === 'picture' && field.of === 'paper' && hasField(field, layout.kind) && field.key !== 'issuer.logo',
	)
	switch (piece.type) {
		case 'words':
			return <WordsOwn piece={piece} put={put} />
		case 'facts':
			return (
				<>
					<RowsOwn piece={piece} put={put} />
					<div className="grid grid-cols-2 gap-2">
						<Pick
							label="Labels"
							value={piece.labels ?? 'left'}
							options={[
								['left', 'left of values'],
								['above', 'above values'],
							]}
							onChange={(labels) => put({ labels })}
						/>
						<Points
							label="Side by side"
							value={piece.across}
							none="1"
							least={1}
							most={6}
							onChange={(across) => put({ across: across === undefined ? undefined : Math.round(across) })}
						/>
						<Points
							label="Size"
							value={piece.size}
							none="usual"
							least={4}
							most={96}
							onChange={(size) => put({ size })}
						/>
						<Points
							label="Width of labels"
							value={piece.labelWidth}
							none="a third"
							least={10}
							most={400}
							onChange={(labelWidth) => put({ labelWidth })}
						/>
						<Colour
							label="Labels in"
							value={piece.labelColor}
							none="usual"
							onChange={(labelColor) => put({ labelColor })}
						/>
						<Colour label="Values in" value={piece.color} none="usual" onChange={(color) => put({ color })} />
					</div>
				</>
			)
		case 'address':
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
		case 'lines':
			return <LinesSettings piece={piece} put={put} />
		case 'totals':
			return <TotalsOwn piece={piece} put={put} />
		case 'aging':
			return (
				<div className="grid grid-cols-2 gap-2">
					<Pick
						label="As"
						value={piece.as ?? 'across'}
						options={[
							['across', 'side by side'],
							['down', 'one below the other'],
						]}
						onChange={(as) => put({ as })}
					/>
					<Colour label="Late in" value={piece.late} none="usual" onChange={(late) => put({ late })} />
					<Points label="Size" value={piece.size} none="usual" least={4} most={40} onChange={(size) => put({ size })} />
				</div>
			)
		case 'picture':
			return (
				<>
					<Pick
						label="Which"
						value={piece.of === 'logo' ? 'logo' : 'image' in piece.of ? 'image' : piece.of.field}
						options={
							[
								['logo', 'the firm’s logo'],
								...(piece.of !== 'logo' && 'image' in piece.of ? ([['image', 'the fixed one']] as const) : []),
								...pictureFields.map(({ key, name, group }) => [key, `${group}: ${name}`] as const),
							] as [string, string][]
						}
						onChange={(of) => of !== 'image' && put({ of: of === 'logo' ? 'logo' : { field: of } })}
					/>
					<ChooseFile
						label="A picture of its own, PNG, JPEG or SVG"
						accept="image/png,image/jpeg,image/svg+xml"
						onFile={(image) => put({ of: { image } }, 'chose a picture')}
					/>
					<div className="grid grid-cols-2 gap-2">
						<Points
							label="Widest"
							value={piece.width}
							least={4}
							most={800}
							onChange={(width) => width && put({ width })}
						/>
						<Points
							label="Highest"
							value={piece.height}
							least={4}
							most={800}
							onChange={(height) => height && put({ height })}
						/>
						<Pick label="Set" value={piece.align ?? 'left'} options={aligns} onChange={(align) => put({ align })} />
					</div>
					<RichLine
						label="Without a picture"
						inlines={piece.none ?? []}
						onChange={(none) => put({ none: none.length > 0 ? none : undefined })}
					/>
				</>
			)
		case 'code':
			return (
				<>
					<Pick
						label="Symbol"
						value={piece.symbol}
						options={symbols.map(
							(one) =>
								[
									one,
									{
										qr: 'QR',
										'data matrix': 'Data Matrix',
										'code 128': 'Code 128',
										'ean-13': 'EAN-13',
										payment: 'payment code (EPC069-12)',
									}[one],
								] as const,
						)}
						onChange={(symbol) => put({ symbol })}
					/>
					{piece.symbol === 'payment' ? (
						<p className="text-sm text-mute">
							Put together from the firm’s IBAN, the amount due in euro and the number. It is left out where one of them
							is missing.
						</p>
					) : (
						<RichLine label="What it says" inlines={piece.value} onChange={(value) => put({ value })} />
					)}
					<div className="grid grid-cols-2 gap-2">
						<Points
							label="Width"
							value={piece.width}
							least={15}
							most={500}
							onChange={(width) => width && put({ width })}
						/>
						{(piece.symbol === 'code 128' || piece.symbol === 'ean-13') && (
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
		case 'slip':
			return (
				<>
					<SaidEdit label="Title" value={piece.title} onChange={(title) => put({ title })} />
					<RowsOwn piece={piece} put={put} />
					<SaidEdit label="Over the line to write on" value={piece.paid} onChange={(paid) => put({ paid })} />
				</>
			)
		case 'rule':
			return (
				<div className="grid grid-cols-2 gap-2">
					<Points
						label="Thickness"
						value={piece.thickness}
						none="0.6"
						least={0.1}
						most={20}
						onChange={(thickness) => put({ thickness })}
					/>
					<Points
						label="Length"
						value={piece.length}
						none="whole width"
						least={1}
						onChange={(length) => put({ length })}
					/>
					<Colour label="Colour" value={piece.color} none="usual" onChange={(color) => put({ color })} />
				</div>
			)
		case 'space':
			return (
				<Points label="Height" value={piece.height} most={700} onChange={(height) => put({ height: height ?? 0 })} />
			)
		case 'box':
			return (
				<div className="grid grid-cols-2 gap-2">
					<Colour label="Ground" value={piece.fill} none="none" onChange={(fill) => put({ fill })} />
					<Colour label="Edge" value={piece.edge} none="none" onChange={(edge) => put({ edge })} />
					<Points
						label="Thickness of edge"
						value={piece.thickness}
						none="0.6"
						least={0.1}
						most={10}
						onChange={(thickness) => put({ thickness })}
					/>
					<Points label="Rounded by" value={piece.radius} none="0" most={40} onChange={(radius) => put({ radius })} />
					<Points label="Space within" value={piece.pad} none="8" most={60} onChange={(pad) => put({ pad })} />
				</div>
			)
		case 'beside':
			return (
				<>
					<div className="grid grid-cols-3 gap-2">
						{piece.columns.map((column, index) => (
							<Points
								key={index}
								label={`Share ${index + 1}`}
								value={column.share}
								least={0.05}
								most={20}
								onChange={(share) =>
									share && put({ columns: piece.columns.map((own, at) => (at === index ? { ...own, share } : own)) })
								}
							/>
						))}
					</div>
					<Points label="Space between" value={piece.gap} none="16" most={100} onChange={(gap) => put({ gap })} />
					<div className="flex gap-2">
						{piece.columns.length < 6 && (
							<Button
								onClick={() =>
									put({ columns: [...piece.columns, { share: 1, pieces: [] }] }, 'put a column beside the others')
								}
							>
								Another column
							</Button>
						)}
						{piece.columns.length > 1 && piece.columns.at(-1)?.pieces.length === 0 && (
							<Button onClick={() => put({ columns: piece.columns.slice(0, -1) }, 'took an empty column away')}>
								Take the empty one away
							</Button>
						)}
					</div>
				</>
			)
	}
}

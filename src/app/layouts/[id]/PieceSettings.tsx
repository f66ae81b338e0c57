'use client'
import { useState } from 'react'
import type { LayoutFinding } from '@/layout/check'
import { pieceNames } from '@/layout/edit'
import { hasField } from '@/layout/fields'
import { type Language, languageNames } from '@/layout/languages'
import type { Leaf, Piece } from '@/layout/schema'
import { symbols, totalRows, windows } from '@/layout/schema'
import { Button } from '@/ui/Button'
import { Notice } from '@/ui/Notice'
import { ConditionEdit } from './ConditionEdit'
import { LinesSettings } from './LinesSettings'
import { useMaking } from './making'
import { ChooseFile, Colour, Pick, Points, SaidEdit, Tick } from './parts'
import { Rich, RichLine } from './Rich'

type Change<Of extends Piece = Piece> = (piece: Of, words: string) => void
type Props = {
	piece: Piece
	/** The band that it stands in by itself, where that comes with pages. */
	top: 'head' | 'foot' | null
	findings: LayoutFinding[]
	onChange: Change
	onCopy: () => void
	onRemove: () => void
	onMove: (by: 1 | -1) => void
}

/** The settings of the chosen piece. */
export function PieceSettings({ piece, top, findings, onChange, onCopy, onRemove, onMove }: Props) {
	const put = (more: Partial<Piece>, words = `changed ${pieceNames[piece.type].toLowerCase()}`) => {
		// What is set back to nothing leaves the layout.
		const next = Object.fromEntries(Object.entries({ ...piece, ...more }).filter(([, value]) => value !== undefined))
		onChange(next as Piece, words)
	}
	return (
		<div className="space-y-4">
			<div className="flex items-baseline gap-2">
				<h2 className="flex-1 text-lg font-semibold">{pieceNames[piece.type]}</h2>
				<button
					type="button"
					aria-label="Move up"
					className="px-1 text-plum hover:underline"
					onClick={() => onMove(-1)}
				>
					↑
				</button>
				<button
					type="button"
					aria-label="Move down"
					className="px-1 text-plum hover:underline"
					onClick={() => onMove(1)}
				>
					↓
				</button>
				<button type="button" className="text-plum hover:underline" onClick={onCopy}>
					Copy
				</button>
				<button type="button" className="text-brick hover:underline" onClick={onRemove}>
					Take away
				</button>
			</div>
			{findings.map(({ level, words }) => (
				<Notice key={words} tone={level}>
					{words}
				</Notice>
			))}
			<Own piece={piece} put={put as Put} />
			<hr className="border-rule" />
			<ConditionEdit
				label="Shown"
				none="always"
				value={piece.when}
				onChange={(when) => put({ when }, 'changed when a piece is shown')}
			/>
			{top && (
				<Pick
					label="On"
					value={piece.on ?? 'every'}
					options={[
						['every', 'every page'],
						['first', 'the first page'],
						['following', 'the pages after the first'],
						...(top === 'foot' ? ([['last', 'the last page']] as const) : []),
					]}
					onChange={(on) => put({ on: on === 'every' ? undefined : on })}
				/>
			)}
			<Points
				label="Space above, points"
				value={piece.above}
				none="0"
				onChange={(above) => put({ above })}
				most={400}
			/>
		</div>
	)
}

type Put = (more: Record<string, unknown>, words?: string) => void
const aligns = [
	['left', 'left'],
	['center', 'in the middle'],
	['right', 'right'],
] as const

function Own({ piece, put }: { piece: Piece; put: Put }) {
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
					<Rows piece={piece} put={put} />
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
					<Rows piece={piece} put={put} />
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
						{piece.columns.length < 3 && (
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

function WordsOwn({ piece, put }: { piece: Extract<Leaf, { type: 'words' }>; put: Put }) {
	const written = Object.keys(piece.says) as Language[]
	const [language, setLanguage] = useState<Language>(written[0] ?? 'en')
	const missing = (Object.keys(languageNames) as Language[]).filter((one) => !written.includes(one))
	return (
		<>
			<div className="flex flex-wrap gap-1 text-sm">
				{written.map((one) => (
					<button
						key={one}
						type="button"
						aria-pressed={one === language}
						className="rounded-sm border border-rule px-1.5 aria-pressed:border-plum aria-pressed:bg-plum-wash"
						onClick={() => setLanguage(one)}
					>
						{languageNames[one]}
					</button>
				))}
				{missing.length > 0 && (
					<select
						aria-label="Write it in another language"
						className="rounded-sm border border-rule bg-sheet"
						value=""
						onChange={(event) => {
							const added = event.target.value as Language
							put(
								{ says: { ...piece.says, [added]: piece.says[language] ?? [] } },
								`wrote words in ${languageNames[added]}`,
							)
							setLanguage(added)
						}}
					>
						<option value="">and in …</option>
						{missing.map((one) => (
							<option key={one} value={one}>
								{languageNames[one]}
							</option>
						))}
					</select>
				)}
			</div>
			<Rich
				key={language}
				label={`Words in ${languageNames[language]}`}
				paragraphs={piece.says[language] ?? []}
				onChange={(paragraphs) => put({ says: { ...piece.says, [language]: paragraphs } }, 'wrote')}
			/>
			<div className="grid grid-cols-2 gap-2">
				<Points label="Size" value={piece.size} none="usual" least={4} most={96} onChange={(size) => put({ size })} />
				<Colour label="Colour" value={piece.color} none="usual" onChange={(color) => put({ color })} />
				<Pick label="Set" value={piece.align ?? 'left'} options={aligns} onChange={(align) => put({ align })} />
				<Points
					label="Line height"
					value={piece.lead}
					none="1.28"
					least={0.8}
					most={3}
					onChange={(lead) => put({ lead })}
				/>
				<Tick label="bold" value={piece.bold} onChange={(bold) => put({ bold })} />
				<Tick label="italic" value={piece.italic} onChange={(italic) => put({ italic })} />
				<Tick label="second typeface" value={piece.display} onChange={(display) => put({ display })} />
				<Tick label="stays with what follows" value={piece.keep} onChange={(keep) => put({ keep })} />
			</div>
		</>
	)
}

/** Rows of facts or of a slip: each opened to its label, value and when it is shown. */
function Rows({ piece, put }: { piece: Extract<Leaf, { type: 'facts' | 'slip' }>; put: Put }) {
	const [open, setOpen] = useState<number | null>(null)
	const { rows } = piece
	const change = (index: number, more: Partial<(typeof rows)[number]>) =>
		put({
			rows: rows.map((row, at) =>
				at === index
					? (Object.fromEntries(
							Object.entries({ ...row, ...more }).filter(([, value]) => value !== undefined),
						) as typeof row)
					: row,
			),
		})
	const labelOf = ({ label }: (typeof rows)[number]) =>
		typeof label === 'string' ? label : (label.en ?? Object.values(label)[0] ?? '')
	return (
		<div>
			<p className="mb-1 text-sm font-semibold">Rows</p>
			<ul className="border-t border-rule-soft">
				{rows.map((row, index) => (
					<li key={index} className="border-b border-rule-soft">
						<div className="flex items-center">
							<button
								type="button"
								aria-expanded={open === index}
								className="flex-1 py-1 text-left hover:text-plum"
								onClick={() => setOpen(open === index ? null : index)}
							>
								{labelOf(row) || 'without a label'}
							</button>
							<button
								type="button"
								aria-label={`${labelOf(row)} up`}
								disabled={index === 0}
								className="px-1 text-plum disabled:opacity-30"
								onClick={() =>
									put({
										rows: rows.map((own, at) =>
											at === index - 1 ? row : at === index ? (rows[index - 1] ?? own) : own,
										),
									})
								}
							>
								↑
							</button>
							<button
								type="button"
								aria-label={`Take ${labelOf(row)} away`}
								className="px-1 text-mute hover:text-brick"
								onClick={() => put({ rows: rows.filter((_, at) => at !== index) })}
							>
								×
							</button>
						</div>
						{open === index && (
							<div className="space-y-2 pb-2">
								<SaidEdit label="Label" value={row.label} onChange={(label) => change(index, { label })} />
								<RichLine label="Value" inlines={row.value} onChange={(value) => change(index, { value })} />
								<ConditionEdit
									label="Shown"
									none="where it has a value"
									value={row.when}
									onChange={(when) => change(index, { when })}
								/>
							</div>
						)}
					</li>
				))}
			</ul>
			<Button
				kind="bare"
				onClick={() => {
					put({ rows: [...rows, { label: 'Label', value: [{ field: 'day' }] }] })
					setOpen(rows.length)
				}}
			>
				Another row
			</Button>
		</div>
	)
}

const rowNames: Record<(typeof totalRows)[number], string> = {
	subtotal: 'Goods and services',
	discounts: 'Discounts',
	charges: 'Freight and charges',
	net: 'Net',
	taxes: 'Tax, a row a rate',
	total: 'Total',
	prepaid: 'Paid before',
	due: 'Amount due',
}

function TotalsOwn({ piece, put }: { piece: Extract<Leaf, { type: 'totals' }>; put: Put }) {
	const shown = piece.rows.map(({ row }) => row)
	const changeRow = (row: (typeof totalRows)[number], more: Record<string, unknown>) =>
		put({
			rows: piece.rows.map((own) =>
				own.row === row
					? Object.fromEntries(Object.entries({ ...own, ...more }).filter(([, value]) => value !== undefined))
					: own,
			),
		})
	return (
		<>
			<p className="text-sm font-semibold">Rows</p>
			<ul>
				{totalRows.map((row) => {
					const own = piece.rows.find((one) => one.row === row)
					return (
						<li key={row} className="flex items-center gap-2 border-b border-rule-soft py-1 text-sm">
							<label className="flex flex-1 items-center gap-2">
								<input
									type="checkbox"
									checked={shown.includes(row)}
									onChange={(event) => {
										const rows = event.target.checked
											? totalRows.flatMap(
													(one) => piece.rows.find((kept) => kept.row === one) ?? (one === row ? [{ row }] : []),
												)
											: piece.rows.filter((one) => one.row !== row)
										if (rows.length > 0) put({ rows })
									}}
								/>
								{rowNames[row]}
							</label>
							{own && (
								<>
									<label className="flex items-center gap-1">
										<input
											type="checkbox"
											checked={own.bold === true}
											onChange={(event) => changeRow(row, { bold: event.target.checked || undefined })}
										/>
										bold
									</label>
									<label className="flex items-center gap-1">
										<input
											type="checkbox"
											checked={own.money === 'sign'}
											onChange={(event) => changeRow(row, { money: event.target.checked ? 'sign' : undefined })}
										/>
										£
									</label>
								</>
							)}
						</li>
					)
				})}
			</ul>
			<div className="grid grid-cols-2 gap-2">
				<Pick
					label="Tax"
					value={piece.taxes ?? 'rows'}
					options={[
						['rows', 'as rows'],
						['table', 'as a table above'],
						['sum', 'as one sum'],
					]}
					onChange={(taxes) => put({ taxes })}
				/>
				<Pick
					label="Labels"
					value={piece.labels ?? 'right'}
					options={[
						['right', 'beside amounts'],
						['left', 'at the left edge'],
					]}
					onChange={(labels) => put({ labels })}
				/>
				<Points label="Size" value={piece.size} none="usual" least={4} most={40} onChange={(size) => put({ size })} />
				<Colour label="Colour" value={piece.color} none="usual" onChange={(color) => put({ color })} />
			</div>
		</>
	)
}

'use client'
import { useMaking } from '@/app/layoutParts/making'
import { hasField } from '@/layout/fields'
import { aligns, ChooseFile, type FormOf, Pick, Points } from '../parts'
import { RichLine } from '../Rich'

export function PictureForm({ piece, put }: FormOf<'picture'>) {
	const { fields, layout } = useMaking()
	const pictureFields = [...fields.values()].filter(
		(field) =>
			field.type === 'picture' && field.of === 'paper' && hasField(field, layout.kind) && field.key !== 'issuer.logo',
	)
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
				<Points label="Widest" value={piece.width} least={4} most={800} onChange={(width) => width && put({ width })} />
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
}

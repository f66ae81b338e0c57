'use client'
import { useTransition } from 'react'
import { removePicture, setOwnPictures } from '@/app/acts/ownFields'
import type { OwnField } from '@/core/ownFields'
import { Button } from '@/ui/Button'
import { Choice, TextField } from '@/ui/Field'
import { SavedForm } from '@/ui/SavedForm'

const accept = 'image/png,image/jpeg,image/svg+xml'

/** Brings many pictures in at once, each named by the code of what it shows. */
export function PicturesForm({ of, fields }: { of: 'customer' | 'item'; fields: OwnField[] }) {
	if (fields.length === 0) return null
	return (
		<details className="px-5 py-3">
			<summary className="text-plum">Bring pictures in</summary>
			<div className="mt-3 max-w-3xl">
				<SavedForm save={setOwnPictures} label="Set the pictures" saved="Set. Drafts are looked at again." resets>
					<div className="grid grid-cols-2 gap-4">
						<TextField
							label="PNG, JPEG or SVG files"
							name="pictures"
							type="file"
							accept={accept}
							multiple
							required
							help={`Each file has the ${of === 'item' ? 'item’s code' : 'customer’s number'} as its name: ${of === 'item' ? 'SH-10.png' : 'C-104.png'}`}
						/>
						<Choice label="As" name="field" options={fields.map(({ key, name }) => [`${of} ${key}`, name])} />
					</div>
				</SavedForm>
			</div>
		</details>
	)
}

/** One picture of one customer or item: seen, changed, taken away. */
export function PictureOf({
	of,
	code,
	field,
	picture,
}: {
	of: 'customer' | 'item'
	code: string
	field: OwnField
	picture: string
}) {
	const [busy, start] = useTransition()
	return (
		<div className="flex items-start gap-4">
			{picture && (
				<img
					src={`/api/images/${picture}`}
					alt={`${field.name} of ${code}`}
					className="max-h-14 max-w-28 border border-rule bg-white p-1"
				/>
			)}
			<SavedForm save={setOwnPictures} label={picture ? 'Set another' : 'Set it'} saved="Set.">
				<input type="hidden" name="field" value={`${of} ${field.key}`} />
				<input type="hidden" name="code" value={code} />
				<TextField label={field.name} name="pictures" type="file" accept={accept} required />
			</SavedForm>
			{picture && (
				<Button
					kind="bare"
					disabled={busy}
					onClick={() => start(async () => void (await removePicture(of, code, field.key)))}
				>
					Take it away
				</Button>
			)}
		</div>
	)
}

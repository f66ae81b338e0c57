'use client'
import { kindAsSeen, type PaperKindBody } from '@/core/paperKind'
import { languageNames } from '@/layout/languages'
import { TextField } from '@/ui/Field'

/** The fields of a kind of paper that may be changed at any time. */
export function KindFields({ kind, mayBecome }: { kind: PaperKindBody | null; mayBecome: boolean }) {
	return (
		<>
			{kind && <input type="hidden" name="each" value={kind.each} />}
			{kind && <input type="hidden" name="seen" value={kindAsSeen(kind)} />}
			<div className="grid grid-cols-2 gap-4">
				<TextField
					label="What one is called"
					name="name"
					defaultValue={kind?.name}
					placeholder="Quote"
					required
					maxLength={40}
					help="Stands on the paper where its language has no name below"
				/>
				<TextField
					label="What several are called"
					name="several"
					defaultValue={kind?.several}
					placeholder="quotes"
					required
					maxLength={40}
				/>
			</div>
			<fieldset>
				<legend className="mb-1 text-sm font-semibold">On papers in</legend>
				<div className="grid grid-cols-3 gap-x-4 gap-y-2">
					{Object.entries(languageNames).map(([language, name]) => (
						<label key={language} className="flex items-center gap-2">
							<span className="w-20 shrink-0 text-sm text-mute">{name}</span>
							<input
								name={`name-${language}`}
								defaultValue={kind?.names[language] ?? ''}
								placeholder="as above"
								maxLength={40}
								className="w-full min-w-0 rounded border border-rule bg-sheet px-2 py-1"
							/>
						</label>
					))}
				</div>
			</fieldset>
			<div className="grid grid-cols-2 items-start gap-4">
				<TextField
					label="Days that it stands"
					name="stands"
					type="number"
					min={1}
					max={3650}
					defaultValue={kind?.stands ?? ''}
					placeholder="for good"
					className="figures"
					help="A quote’s last day, counted from its date"
				/>
				<div className="space-y-2 pt-6">
					<label className="flex items-center gap-2">
						<input
							type="checkbox"
							name="numbered"
							defaultChecked={kind?.numbered ?? true}
							className="size-4 accent-plum"
						/>
						Numbered by a register of its own
					</label>
					{mayBecome && (
						<label className="flex items-center gap-2">
							<input
								type="checkbox"
								name="becomesOrder"
								defaultChecked={kind?.becomesOrder ?? false}
								className="size-4 accent-plum"
							/>
							Becomes an order when its customer accepts it
						</label>
					)}
				</div>
			</div>
		</>
	)
}

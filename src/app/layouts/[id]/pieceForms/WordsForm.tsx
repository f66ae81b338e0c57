'use client'
import { useState } from 'react'
import { type Language, languageNames } from '@/layout/languages'
import { aligns, Colour, type FormOf, Pick, Points, Tick } from '../parts'
import { Rich } from '../Rich'

/** Words a language, and how they are set. */
export function WordsForm({ piece, put }: FormOf<'words'>) {
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

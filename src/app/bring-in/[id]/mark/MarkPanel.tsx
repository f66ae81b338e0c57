'use client'
import { encodings } from '@/intake/formats/delimited/encodings'
import type { Marks } from '@/intake/formats/report/marks'
import { type FileKind, fileKinds } from '@/intake/kinds'
import type { Field } from '@/intake/kinds/field'
import type { Tried } from '@/intake/tryMarks'
import { MarkedRows } from './MarkedRows'
import { MarkedValue } from './MarkedValue'
import { Drop, NumberSet, Part, SpotSet, SpotWords, small, Table } from './markParts'

type Props = {
	marks: Marks
	kind: FileKind
	fields: readonly Field[]
	tried: Tried
	home: string
	one: string
	onSet: (marks: Marks) => void
	onKind: (kind: FileKind) => void
	onPage: (page: number) => void
}

/** What is marked, and what is read by it from all pages; each mark can be set and taken away here. */
export function MarkPanel({ marks, kind, fields, tried, one, onSet, onKind, onPage }: Props) {
	const byName = new Map(tried.names.map((name) => [name.name, name]))
	const { begins, ends, values, rows, pass, top } = marks
	return (
		<aside
			aria-label="What is read"
			className="scrolls w-[350px] shrink-0 space-y-4 border-l border-rule px-4 py-3 text-sm max-[1100px]:w-[320px]"
		>
			<label className="flex items-center gap-2">
				It holds
				<select
					className={small}
					value={kind}
					onChange={(event) => {
						const picked = fileKinds.find((other) => other === event.target.value)
						if (picked) onKind(picked)
					}}
				>
					{fileKinds.map((other) => (
						<option key={other}>{other}</option>
					))}
				</select>
			</label>
			<Part
				title={`${one[0]?.toUpperCase()}${one.slice(1)} begins`}
				about={begins ? <SpotWords spot={begins} /> : 'Drag over words that stand wherever one begins, and press B.'}
			>
				{begins && <SpotSet name="where it begins" spot={begins} onSet={(spot) => onSet({ ...marks, begins: spot })} />}
				{ends && (
					<div className="mt-1">
						It ends <SpotWords spot={ends} />{' '}
						<SpotSet name="where it ends" spot={ends} onSet={(spot) => onSet({ ...marks, ends: spot })} />
					</div>
				)}
				{values.length > 0 && (
					<Table label="Values">
						{values.map((mark, place) => (
							<MarkedValue
								key={mark.names.join()}
								mark={mark}
								tried={byName.get(mark.names[0] ?? '')}
								total={mark.whole ? tried.total : null}
								onSet={(next) => onSet({ ...marks, values: values.map((other, at) => (at === place ? next : other)) })}
								onDrop={() => onSet({ ...marks, values: values.filter((_, at) => at !== place) })}
							/>
						))}
					</Table>
				)}
			</Part>
			<Part
				title="Its rows"
				about={
					rows ? (
						rows.under ? (
							<>
								under <q>{rows.under.text.replace(/\s+/g, ' ').slice(0, 24)}…</q>
							</>
						) : (
							`from ${rows.after} ${rows.after === 1 ? 'line' : 'lines'} under where it begins`
						)
					) : (
						'Drag over one or more of the rows that repeat, and press R.'
					)
				}
			>
				{rows && <MarkedRows marks={marks} rows={rows} fields={fields} byName={byName} onSet={onSet} />}
			</Part>
			{(top.length > 0 || pass.length > 0) && (
				<Part title="Passed over">
					<ul>
						{top.length > 0 && (
							<li className="flex items-baseline gap-2">
								{top.length === 1 ? 'the first line' : `the first ${top.length} lines`} of every page
								<Drop name="the head of pages" onClick={() => onSet({ ...marks, top: [] })} />
							</li>
						)}
						{pass.map((spot, place) => (
							<li key={`${spot.text} ${spot.at}`} className="flex items-baseline gap-2">
								<SpotWords spot={spot} />
								<SpotSet
									name={`lines with ${spot.text}`}
									spot={spot}
									onSet={(next) =>
										onSet({
											...marks,
											pass: next
												? pass.map((other, at) => (at === place ? next : other))
												: pass.filter((_, at) => at !== place),
										})
									}
								/>
							</li>
						))}
					</ul>
				</Part>
			)}
			{(tried.ties.tie + tried.ties.out > 0 || tried.total) && (
				<Part title="Control">
					{tried.ties.tie + tried.ties.out > 0 && (
						<p>
							Order totals: <span className="text-kelp">{tried.ties.tie} tie</span>
							{tried.ties.out > 0 && <span className="text-brick">, {tried.ties.out} out</span>}
						</p>
					)}
					{tried.total && (
						<p>
							The whole report says <span className="figures">{tried.total.figure}</span>; its rows come to{' '}
							<span className={`figures ${tried.total.ties ? 'text-kelp' : 'text-brick'}`}>{tried.total.sum}</span>.
						</p>
					)}
				</Part>
			)}
			{tried.decided.questions.length > 0 && (
				<p className="border-l-[3px] border-ochre bg-ochre-wash px-3 py-2 text-ochre">
					{tried.decided.questions.map(({ name }) => questionWords[name]).join(' ')} It is asked once all is read.
				</p>
			)}
			{tried.misfits.length > 0 && (
				<Part title={`${tried.misfits.length} that do not fit`} about="refused until they are mended">
					<ul className="space-y-1">
						{tried.misfits.slice(0, 12).map(({ place, words }) => (
							<li key={`${place.page} ${place.of} ${words}`}>
								<button
									type="button"
									onClick={() => onPage(place.page)}
									className="border-l-[3px] border-ochre bg-ochre-wash px-3 py-1 text-left text-ochre hover:underline"
								>
									{words.startsWith('At page') ? words : `Page ${place.page}, line ${place.of}: ${words}`}
								</button>
							</li>
						))}
					</ul>
				</Part>
			)}
			{tried.unused.length > 0 && (tried.documents > 0 || begins) && (
				<Part title="Not used">
					<ul className="flex flex-wrap gap-x-4 gap-y-0.5 text-mute">
						{tried.unused.slice(0, 24).map(({ text, times, place }) => (
							<li key={text}>
								<button type="button" className="hover:underline" onClick={() => onPage(place.page)}>
									<span className="figures">{text.slice(0, 36)}</span>
									{times > 1 && ` ×${times}`}
								</button>
							</li>
						))}
					</ul>
				</Part>
			)}
			<Part title="The paper">
				<label className="mb-1 flex items-center gap-2">
					Letters are written as
					<select
						className={small}
						value={marks.encoding}
						onChange={(event) => {
							const encoding = encodings.find((one) => one === event.target.value)
							if (encoding) onSet({ ...marks, encoding })
						}}
					>
						{encodings
							.filter((one) => !one.startsWith('UTF-16') || one === marks.encoding)
							.map((one) => (
								<option key={one}>{one}</option>
							))}
					</select>
				</label>
				<label className="flex items-center gap-2">
					<input
						type="checkbox"
						checked={marks.control}
						onChange={(event) => onSet({ ...marks, control: event.target.checked })}
					/>
					The first column tells the printer (1 a new page, 0 a blank line, + over the line above)
				</label>
				<div className="mt-1 flex items-center gap-2">
					<NumberSet
						words="Lines on a page"
						value={marks.pageLines}
						label="Lines on a page"
						onSet={(pageLines) => onSet({ ...marks, pageLines })}
					/>
					<span className="text-mute">0 where the file says it itself</span>
				</div>
			</Part>
		</aside>
	)
}

const questionWords = {
	days: 'Whether the day or the month stands first is not told.',
	decimal: 'Whether a comma parts thousands or decimals is not told.',
	discount: 'What a discount of a line is, is not told.',
	orderDiscount: 'What a discount of an order is, is not told.',
}

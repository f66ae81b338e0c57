import type { Metadata } from 'next'
import { capital } from '@/core/wording'
import { baseOf } from '@/kinds'
import { languageNames } from '@/layout/languages'
import { looksOf } from '@/layout/looks'
import { logoColours } from '@/pdf/logoColours'
import { usedByWords, usesOf } from '@/runs/layouts/layouts'
import { readCompany, readImage } from '@/store/company'
import { allCustomers } from '@/store/customers'
import { openForms } from '@/store/forms'
import { allChoices, allLayouts } from '@/store/layouts'
import { kindIn, kindsIn } from '@/store/paperKinds'
import { buttonLook } from '@/ui/Button'
import Link from '@/ui/Link'
import { PageHead, Section } from '@/ui/Page'
import { PdfPages } from '@/ui/PdfPages'
import { reading } from '../reading'
import { Choices } from './Choices'
import { NewForm } from './NewForm'
import { NewLayout } from './NewLayout'

export const metadata: Metadata = { title: 'Layouts' }

/** Every layout as it draws a real paper, and who gets which. */
export default async function LayoutsPage() {
	const { books } = await reading()
	const layouts = allLayouts(books)
	const kinds = kindsIn(books)
	const forms = openForms(books)
	const uses = usesOf(books)
	const sha256 = readCompany(books)?.logo_sha256
	const logo = sha256 ? readImage(books, sha256) : null
	const customers = allCustomers(books).map(({ id, number, name }) => ({ id, name: `${name} (${number})` }))
	return (
		<>
			<PageHead title="Layouts" about="How papers look; each shown as the latest of its kind">
				<Link href="/layouts/leaving" className={buttonLook()}>
					How papers leave
				</Link>
				<NewForm kinds={kinds.map((kind) => ({ kind, name: kindIn(books, kind).words.name }))} />
				<NewLayout
					logo={{ there: logo !== null, colours: logo ? await logoColours(logo) : [] }}
					kinds={kinds.map((kind) => ({
						kind,
						name: kindIn(books, kind).words.name,
						looks: looksOf(baseOf(kind)).map(({ name }) => name),
						layouts: layouts.filter((row) => row.kind === kind).map(({ id, name }) => ({ id, name })),
					}))}
				/>
			</PageHead>
			{forms.length > 0 && (
				<Section title="Forms on their way" aside="Brought in, and not made a layout yet">
					<ul className="px-5 pb-4">
						{forms.map((form) => (
							<li key={form.id} className="border-b border-rule-soft py-1.5">
								<Link href={`/layouts/forms/${form.id}`} className="font-semibold hover:underline">
									{form.name}
								</Link>
								<span className="ml-3 text-mute">
									{`${kindIn(books, form.kind).words.noun}, ${form.file_name}, brought in by ${form.brought_by}${form.refused ? ': it could not be read' : ''}`}
								</span>
							</li>
						))}
					</ul>
				</Section>
			)}
			{kinds.map((kind) => (
				<Section key={kind} title={capital(kindIn(books, kind).words.nouns)}>
					<ul className="grid grid-cols-[repeat(auto-fill,minmax(210px,1fr))] gap-5 px-5 pb-5">
						{layouts
							.filter((row) => row.kind === kind)
							.map((row) => {
								const use = uses.get(row.id)
								return (
									<li key={row.id} data-layout={row.name}>
										<Link
											href={`/layouts/${row.id}`}
											className="group block"
											aria-label={`${row.name}, ${kindIn(books, kind).words.noun}`}
										>
											<div className="h-[236px] overflow-hidden border border-rule bg-white group-hover:border-plum">
												<PdfPages
													url={`/api/layouts/${row.id}/pdf?v=${row.version}-${row.step ?? 0}`}
													label={row.name}
													most={1}
												/>
											</div>
											<p className="mt-1.5 font-semibold group-hover:underline">{row.name}</p>
										</Link>
										<p className="text-sm text-mute">
											{row.version === 0 ? 'not released yet' : `version ${row.version}`}
											{use ? ` · ${usedByWords(use)}` : ' · chosen for nobody'}
										</p>
										{row.step !== null && (
											<p className="mt-1 inline-block rounded-sm bg-ochre-wash px-1.5 text-sm text-ochre">
												{`version ${row.version + 1} in the making`}
											</p>
										)}
									</li>
								)
							})}
					</ul>
				</Section>
			))}
			<Section title="Who gets which" aside="A customer’s own counts first, then their language’s, then the firm’s">
				<Choices
					kinds={kinds.map((kind) => ({
						kind,
						name: capital(kindIn(books, kind).words.nouns),
						layouts: layouts
							.filter((row) => row.kind === kind && row.version > 0)
							.map(({ id, name }) => ({ id, name })),
					}))}
					choices={allChoices(books)}
					customers={customers}
					languages={Object.entries(languageNames)}
				/>
			</Section>
		</>
	)
}

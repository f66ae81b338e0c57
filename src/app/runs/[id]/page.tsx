import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { panelOf } from '@/runs/bench/panel'
import { runView } from '@/runs/bench/runView'
import { idOf, reading } from '../../reading'
import { Bench } from './Bench'

type Props = { params: Promise<{ id: string }>; searchParams: Promise<{ doc?: string; tab?: string }> }
/** Rows that come with the page. */
const withPage = 150

export async function generateMetadata({ params }: Pick<Props, 'params'>): Promise<Metadata> {
	return { title: `Run ${(await params).id}` }
}

export default async function RunPage({ params, searchParams }: Props) {
	const { books } = await reading()
	const view = runView(books, idOf((await params).id), withPage)
	if (!view) notFound()
	// What its address names comes with the page; what is chosen later is fetched.
	const { doc, tab } = await searchParams
	const panel = panelOf(books, idOf(doc))
	const opened = panel?.document.run_id === view.run.id ? { view: panel, version: view.version } : null
	return <Bench {...view} opened={opened} tab={tab ?? ''} />
}

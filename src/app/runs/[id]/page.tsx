import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { runView } from '@/runs/runView'
import { idOf, reading } from '../../reading'
import { Bench } from './Bench'

type Props = { params: Promise<{ id: string }> }
/** Rows that come with the page. */
const withPage = 150

export async function generateMetadata({ params }: Props): Promise<Metadata> {
	return { title: `Run ${(await params).id}` }
}

export default async function RunPage({ params }: Props) {
	const { books } = await reading()
	const view = runView(books, idOf((await params).id), withPage)
	if (!view) notFound()
	return <Bench {...view} />
}

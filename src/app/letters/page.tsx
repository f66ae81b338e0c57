import type { Metadata } from 'next'
import { type FieldValues, type MergeField, mergeFields } from '@/core/letter'
import { letterName, lettersFor, stageOfLetter } from '@/kinds'
import { letterFor } from '@/runs/send/letterFor'
import { letterReaders } from '@/runs/statements/letterReaders'
import { homeCurrency } from '@/store/company'
import { letterVersions } from '@/store/messages'
import { allPaperKinds } from '@/store/paperKinds'
import { readSettings } from '@/store/settings'
import Link from '@/ui/Link'
import { PageHead, Section } from '@/ui/Page'
import { reading } from '../reading'
import { LetterForm } from './LetterForm'
import { LateForm, StagesForm } from './StagesForm'

export const metadata: Metadata = { title: 'Letters' }

const invented: FieldValues = {
	customer: 'a customer',
	number: 'its number',
	amount: 'its amount',
	'due date': 'its due date',
	firm: 'your firm',
	'your order': 'their order',
	'credited invoice': 'the invoice it credits',
	'as of': 'its day',
	'past due': 'what is past due',
	'days late': 'the days of the oldest',
	items: 'Number\tDue\tOpen\nits number\tits due date\twhat is open',
	'items past due': 'Number\tDue\tOpen\nits number\tits due date\twhat is open',
	paper: 'what it is',
	'last day': 'its last day',
}

/** The texts that go with documents, each shown as a real customer would read it. */
export default async function LettersPage({
	searchParams,
}: {
	searchParams: Promise<{ kind?: string; customer?: string }>
}) {
	const { books, today } = await reading()
	const { kind: wanted, customer } = await searchParams
	const papers = allPaperKinds(books)
	const letters = [...lettersFor(readSettings(books).stages.length), ...papers.map(({ key }) => key)]
	const kind = letters.find((known) => known === wanted) ?? 'invoice'
	const { stages, promiseDays, lateTerms } = readSettings(books)
	const nameOf = (key: string) => stages[stageOfLetter(key) - 1]?.name ?? letterName(key)
	const all = letterReaders(books, kind, today)
	const shown = all.find(({ id }) => id === Number(customer)) ?? all[0]
	const empty: Partial<Record<MergeField, string[]>> = Object.fromEntries(
		mergeFields.map((field) => [field, all.filter(({ values }) => values[field] === '').map(({ name }) => name)]),
	)
	const letter = letterFor(books, kind)
	return (
		<>
			<PageHead title="Letters" about="The text that goes with each document">
				{letters.map((each) => (
					<Link
						key={each}
						href={`/letters?kind=${each}`}
						aria-current={each === kind ? 'page' : undefined}
						className={`rounded-sm border px-2 py-0.5 text-sm ${each === kind ? 'border-ink bg-sheet font-semibold' : 'border-rule hover:border-mute'}`}
					>
						{papers.find(({ key }) => key === each)?.name ?? nameOf(each)}
					</Link>
				))}
			</PageHead>
			<LetterForm
				key={kind}
				kind={kind}
				letter={{ subject: letter.subject, body: letter.body }}
				values={shown?.values ?? invented}
				customers={all.map(({ id, name }) => ({ id, name }))}
				shown={shown?.id ?? null}
				empty={empty}
				versions={letterVersions(books, kind)}
			/>
			<Section
				title="Stages of past-due letters"
				aside="One after the other, each after the one before really went; begun anew once nothing is past due"
			>
				<StagesForm key={JSON.stringify(stages)} stages={stages} promiseDays={promiseDays} home={homeCurrency(books)} />
			</Section>
			<Section
				title="Late charges"
				aside="On what is past due and undisputed; each can be dropped before its statement is numbered"
			>
				<LateForm key={JSON.stringify(lateTerms)} terms={lateTerms} home={homeCurrency(books)} today={today} />
			</Section>
		</>
	)
}

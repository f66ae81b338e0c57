import type { Metadata } from 'next'
import { headers } from 'next/headers'
import { connection } from 'next/server'
import type { ReactNode } from 'react'
import { dayText } from '@/core/calendar'
import { readCompany } from '@/store/company'
import { customerCount } from '@/store/customers'
import { diskWords } from '@/store/disk'
import { filesWaiting } from '@/store/files'
import { waitingCount } from '@/store/orders'
import { postroomCount } from '@/store/postroom'
import { openRuns } from '@/store/runs'
import { clerks, readSettings } from '@/store/settings'
import Link from '@/ui/Link'
import { Mark } from '@/ui/Mark'
import { Notice } from '@/ui/Notice'
import { AtTheDesk } from './frame/AtTheDesk'
import { Find } from './frame/Find'
import { FirstName } from './frame/FirstName'
import { Nonce } from './frame/Nonce'
import { Rail } from './frame/Rail'
import { type Reading, reading } from './reading'
import './globals.css'

export const metadata: Metadata = { title: { default: 'North Tally', template: '%s · North Tally' } }

/** The frame: what is always in view. The books are read anew for each page, so that every count is true. */
export default async function Frame({ children }: { children: ReactNode }) {
	await connection()
	const nonce = (await headers()).get('x-nonce') ?? ''
	const at = await reading()
	return (
		<html lang="en-GB">
			<body>
				<Nonce value={nonce} />
				{at.clerk ? (
					<Workplace at={at} name={at.clerk}>
						{children}
					</Workplace>
				) : (
					<FirstName />
				)}
			</body>
		</html>
	)
}

function Workplace({ at, name, children }: { at: Reading; name: string; children: ReactNode }) {
	const { books, today } = at
	const { mail } = readSettings(books)
	const full = diskWords(books)
	const counts = {
		'/bring-in': filesWaiting(books),
		'/to-bill': waitingCount(books),
		'/runs': openRuns(books),
		'/postroom': postroomCount(books),
		'/accounts': customerCount(books),
	}
	return (
		<div className="grid h-full grid-cols-[172px_minmax(0,1fr)] grid-rows-[48px_minmax(0,1fr)] max-[1100px]:grid-cols-[148px_minmax(0,1fr)]">
			<header className="col-span-2 flex items-center gap-5 border-b border-rule px-4">
				<Link href="/" className="flex w-[140px] shrink-0 items-center gap-2 font-semibold">
					<Mark /> North Tally
				</Link>
				<p className="shrink-0 whitespace-nowrap">
					Working as of <span className="figures font-semibold">{dayText(today)}</span>
				</p>
				<p className="min-w-0 truncate text-mute">{readCompany(books)?.name ?? 'No firm named yet'}</p>
				<div className="ml-auto flex shrink-0 items-center gap-3">
					<Find />
					<Link
						href={mail.mode === 'practice' ? '/practice-mail' : '/company#mail'}
						className={`rounded-sm px-2 py-1 text-sm ${mail.mode === 'practice' ? 'bg-ochre-wash text-ochre' : 'bg-kelp-wash text-kelp'}`}
					>
						{mail.mode === 'practice'
							? 'Practice mail: nothing leaves'
							: `Real mail through ${mail.host || 'no server yet'}`}
					</Link>
				</div>
			</header>
			<div className="flex min-h-0 flex-col border-r border-rule">
				<Rail counts={counts} />
				<AtTheDesk name={name} others={clerks(books).filter((other) => other !== name)} />
			</div>
			<main className="scrolls relative flex min-h-0 min-w-0 flex-col" id="main">
				{full && (
					<div className="shrink-0 p-2">
						<Notice tone="stop">{full}</Notice>
					</div>
				)}
				<div className="min-h-0 flex-1">{children}</div>
			</main>
		</div>
	)
}

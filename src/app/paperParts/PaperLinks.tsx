import { placeRules } from '@/core/places'
import type { MadePaper } from '@/store/paperRecords'
import { Chip, type Tone } from '@/ui/Chip'
import Link from '@/ui/Link'

/** How far a paper has come, in words. */
export function standing({ place }: Pick<MadePaper, 'place'>): { tone: Tone; words: string } {
	const { paper, tone } = placeRules[place]
	return { tone, words: paper }
}

/** The papers of a record: each version with its number and how far it has come; what was put away is left out. */
export function PaperLinks({ papers, none }: { papers: MadePaper[]; none: string }) {
	const shown = papers.filter(({ place }) => place !== 'dropped')
	if (shown.length === 0) return <span className="text-mute">{none}</span>
	return (
		<span className="flex flex-wrap gap-x-4 gap-y-1">
			{shown.map(({ document_id, number, version, place }) => {
				const { tone, words } = standing({ place })
				return (
					<span key={document_id} className="whitespace-nowrap">
						<Link href={`/documents/${document_id}`} className="figures text-plum underline">
							{number ?? 'draft'}
						</Link>{' '}
						{version > 1 && <span className="text-mute">{`version ${version} `}</span>}
						<Chip tone={tone}>{words}</Chip>
					</span>
				)
			})}
		</span>
	)
}

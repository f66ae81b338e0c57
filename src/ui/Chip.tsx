import type { Tone } from '@/core/places'

export type { Tone } from '@/core/places'

const tones: Record<Tone, string> = {
	tie: 'text-kelp',
	look: 'bg-ochre-wash text-ochre',
	stop: 'bg-brick-wash text-brick',
	quiet: 'text-mute',
	act: 'bg-plum-wash text-plum',
}

/** A word about a state; the word carries the meaning, the colour only helps. */
export function Chip({ tone, children }: { tone: Tone; children: string }) {
	return (
		<span
			className={`inline-block max-w-full truncate rounded-sm px-1.5 py-px text-xs align-middle ${tones[tone]}`}
			title={children}
		>
			{children}
		</span>
	)
}

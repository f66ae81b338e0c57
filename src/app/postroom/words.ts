import type { PostState } from '@/store/postroom'
import type { Tone } from '@/ui/Chip'

/** How each state of the Postroom is said. */
export const stateWords: Record<PostState, { words: string; tone: Tone }> = {
	unsure: { words: 'unsure', tone: 'stop' },
	refused: { words: 'refused', tone: 'stop' },
	copy: { words: 'copy not sent', tone: 'look' },
	'put off': { words: 'goes by itself', tone: 'look' },
	'kept back': { words: 'kept back', tone: 'look' },
	waiting: { words: 'waits for its run', tone: 'quiet' },
	sending: { words: 'on its way', tone: 'quiet' },
}

import type { Checked, Finding } from './finding'

/** What the paper was made from no longer counts: it must not go out unseen. */
export const recordGone = ({ content, recordGone: why }: Checked): Finding[] =>
	why === ''
		? []
		: [
				{
					code: 'record-gone',
					level: 'stop',
					brief: 'its record is withdrawn',
					text: `What this ${content.paper?.name ?? 'paper'} was made from no longer counts: ${why}. Drop the draft, or hold it back.`,
				},
			]

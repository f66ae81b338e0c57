/** What became of an act: done, with the id of what it made, or refused, with what to do instead. */
export type Outcome =
	| { ok: true; id?: number; words?: string }
	/** `ask` where a person may say something for it to go all the same; `upTo`, the record's latest event that the message tells of. */
	| { ok: false; message: string; ask?: 'draft' | 'issued' | 'late' | 'changed' | 'ahead' | 'again'; upTo?: number }
/** An act that was not done, with what to tell the person. */
export const no = (message: string): { ok: false; message: string } => ({ ok: false, message })

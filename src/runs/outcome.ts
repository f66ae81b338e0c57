/** What became of an act: done, with the id of what it made, or refused, with what to do instead. */
export type Outcome = { ok: true; id?: number; words?: string } | { ok: false; message: string }
export const no = (message: string): { ok: false; message: string } => ({ ok: false, message })

type Refused = { ok: false; message: string; ask?: undefined }

/** What a form says when no answer came: what was typed stays where it is. */
const noAnswer =
	'No answer came: the program may be starting again. What you typed is still here. Look whether it was done, then try again.'

/** An act of a person; where the web is away or ends in the middle of it, that is the answer, and nothing that was typed is lost. */
export async function answered<Answer>(work: Promise<Answer>): Promise<Answer | Refused> {
	try {
		return await work
	} catch {
		return { ok: false, message: noAnswer }
	}
}

/** Languages that the fixed words of a layout can be written in, by their own names. */
export const languageNames = {
	en: 'English',
	de: 'Deutsch',
	fr: 'Français',
	es: 'Español',
	nb: 'Norsk',
	nl: 'Nederlands',
} as const
export type Language = keyof typeof languageNames
export const languages = Object.keys(languageNames) as [Language, ...Language[]]

/** The language of a locale: "de-AT" → "de"; null for one that papers have no words in. */
export function languageOf(locale: string): Language | null {
	const short = locale.slice(0, 2).toLowerCase()
	const wanted = short === 'no' || short === 'nn' ? 'nb' : short
	return languages.find((language) => language === wanted) ?? null
}

/** Languages in which a paper's words are looked for: the customer's, the firm's, then any. */
export function languagesFor({
	locale,
	issuer,
}: {
	locale: string
	issuer: { language?: string | undefined }
}): Language[] {
	const known = [languageOf(locale), languageOf(issuer.language ?? 'en')].filter((one) => one !== null)
	return [...new Set([...known, ...languages])]
}

/** A fixed word or sentence: the same in every language, or one a language. */
export type Said = string | Partial<Record<Language, string>>

/** Words in the wanted language, else the firm's, else the first there are. */
export function sayIn(said: Said, languages: readonly Language[]): string {
	if (typeof said === 'string') return said
	for (const language of languages) {
		const words = said[language]
		if (words !== undefined) return words
	}
	return Object.values(said)[0] ?? ''
}

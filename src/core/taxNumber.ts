import { validate as uid } from 'stdnum/lib/cjs/at/uid.js'
import { validate as be } from 'stdnum/lib/cjs/be/vat.js'
import { validate as bg } from 'stdnum/lib/cjs/bg/vat.js'
import { validate as ch } from 'stdnum/lib/cjs/ch/vat.js'
import { validate as cy } from 'stdnum/lib/cjs/cy/vat.js'
import { validate as dic } from 'stdnum/lib/cjs/cz/dic.js'
import { validate as de } from 'stdnum/lib/cjs/de/vat.js'
import { validate as cvr } from 'stdnum/lib/cjs/dk/cvr.js'
import { validate as kmkr } from 'stdnum/lib/cjs/ee/kmkr.js'
import { validate as es } from 'stdnum/lib/cjs/es/nif.js'
import { validate as alv } from 'stdnum/lib/cjs/fi/alv.js'
import { validate as fr } from 'stdnum/lib/cjs/fr/tva.js'
import { validate as gb } from 'stdnum/lib/cjs/gb/vat.js'
import { validate as gr } from 'stdnum/lib/cjs/gr/vat.js'
import { validate as oib } from 'stdnum/lib/cjs/hr/oib.js'
import { validate as anum } from 'stdnum/lib/cjs/hu/anum.js'
import { validate as ie } from 'stdnum/lib/cjs/ie/vat.js'
import { validate as iva } from 'stdnum/lib/cjs/it/iva.js'
import { validate as pvm } from 'stdnum/lib/cjs/lt/pvm.js'
import { validate as lu } from 'stdnum/lib/cjs/lu/tva.js'
import { validate as pvn } from 'stdnum/lib/cjs/lv/pvn.js'
import { validate as mt } from 'stdnum/lib/cjs/mt/vat.js'
import { validate as btw } from 'stdnum/lib/cjs/nl/btw.js'
import { validate as mva } from 'stdnum/lib/cjs/no/mva.js'
import { validate as nip } from 'stdnum/lib/cjs/pl/nip.js'
import { validate as pt } from 'stdnum/lib/cjs/pt/nif.js'
import { validate as cui } from 'stdnum/lib/cjs/ro/cui.js'
import { validate as se } from 'stdnum/lib/cjs/se/vat.js'
import { validate as ddv } from 'stdnum/lib/cjs/si/ddv.js'
import { validate as dph } from 'stdnum/lib/cjs/sk/dph.js'

/** How numbers of a country are written, and what looks at their form and check digits. */
type Country = {
	/** Letters that stand before the number; those of the country itself where they are left out. */
	letters: string
	example: string
	validate: (number: string) => { isValid: boolean; error?: Error | undefined }
	/** What the tax office puts behind the number; it may be left out on paper. */
	behind?: string
}

/** VAT numbers by ISO 3166-1 code: the EU (VIES), the United Kingdom with Northern Ireland, Norway and Switzerland. */
const countries: Record<string, Country> = {
	AT: { letters: 'AT', example: 'ATU12345005', validate: uid },
	BE: { letters: 'BE', example: 'BE0123456749', validate: be },
	BG: { letters: 'BG', example: 'BG123456786', validate: bg },
	CH: { letters: 'CHE', example: 'CHE-123.456.788 MWST', validate: ch, behind: 'MWST' },
	CY: { letters: 'CY', example: 'CY10234560L', validate: cy },
	CZ: { letters: 'CZ', example: 'CZ12345679', validate: dic },
	DE: { letters: 'DE', example: 'DE123456788', validate: de },
	DK: { letters: 'DK', example: 'DK12345607', validate: cvr },
	EE: { letters: 'EE', example: 'EE101234568', validate: kmkr },
	ES: { letters: 'ES', example: 'ESB12345674', validate: es },
	FI: { letters: 'FI', example: 'FI12345671', validate: alv },
	FR: { letters: 'FR', example: 'FR11123456782', validate: fr },
	GB: { letters: 'GB', example: 'GB123456727', validate: gb },
	GR: { letters: 'EL', example: 'EL012345670', validate: gr },
	HR: { letters: 'HR', example: 'HR12345678903', validate: oib },
	HU: { letters: 'HU', example: 'HU12345676', validate: anum },
	IE: { letters: 'IE', example: 'IE1234567T', validate: ie },
	IT: { letters: 'IT', example: 'IT01234560041', validate: iva },
	LT: { letters: 'LT', example: 'LT123456010', validate: pvm },
	LU: { letters: 'LU', example: 'LU12345613', validate: lu },
	LV: { letters: 'LV', example: 'LV40001234561', validate: pvn },
	MT: { letters: 'MT', example: 'MT12345634', validate: mt },
	NL: { letters: 'NL', example: 'NL123456782B01', validate: btw },
	NO: { letters: 'NO', example: 'NO987654325MVA', validate: mva, behind: 'MVA' },
	PL: { letters: 'PL', example: 'PL1234567802', validate: nip },
	PT: { letters: 'PT', example: 'PT512345678', validate: pt },
	RO: { letters: 'RO', example: 'RO12345674', validate: cui },
	SE: { letters: 'SE', example: 'SE556123456701', validate: se },
	SI: { letters: 'SI', example: 'SI12345679', validate: ddv },
	SK: { letters: 'SK', example: 'SK2021234501', validate: dph },
	XI: { letters: 'XI', example: 'XI123456727', validate: (number) => gb(number.replace(/^XI/, 'GB')) },
}

const languages = ['en', 'de', 'fr', 'es', 'it', 'nl', 'nb', 'da', 'sv', 'fi', 'pl', 'cs', 'pt', 'el'] as const
/** Other names that people write. */
const alsoCalled: Record<string, string> = {
	'GREAT BRITAIN': 'GB',
	ENGLAND: 'GB',
	SCOTLAND: 'GB',
	WALES: 'GB',
	UK: 'GB',
	'NORTHERN IRELAND': 'XI',
	HOLLAND: 'NL',
	'CZECH REPUBLIC': 'CZ',
	'THE NETHERLANDS': 'NL',
	EL: 'GR',
}
let byName: Map<string, string> | null = null
/** The ISO code of a country as an address names it, in a language of Europe or by its code; null for another. */
function codeOf(country: string): string | null {
	if (!byName) {
		const codes = Object.keys(countries).filter((code) => code !== 'XI')
		byName = new Map(Object.entries(alsoCalled))
		for (const code of codes) byName.set(code, code)
		for (const language of languages) {
			const names = new Intl.DisplayNames([language], { type: 'region' })
			for (const code of codes) byName.set((names.of(code) ?? code).toUpperCase(), code)
		}
	}
	return byName.get(country.trim().toUpperCase()) ?? null
}

/**
 * What is odd about a customer's VAT number: its form, its check digits, or that it is of another country than they are in. Empty where
 * nothing is, and where nothing is known of the country.
 * @param number as it is written; its country's letters may be left out
 * @param country of the customer, as their address names it
 */
export function taxNumberFault(number: string, country: string): string {
	const plain = number.toUpperCase().replace(/[\s.\-/]/g, '')
	const home = codeOf(country)
	const beginsWith = (letters: string) => plain.startsWith(letters) && /\d{2}/.test(plain)
	const lettersOf = Object.entries(countries).map(([code, { letters }]): [string, string] => [code, letters])
	const named = [...lettersOf, ['GR', 'GR'] as const].find(([, letters]) => beginsWith(letters))?.[0]
	// Letters of another country that nothing is known of; a number of Spain may begin with one letter of its own.
	const foreign = /^[A-Z]{2}\d/.test(plain) && home === null
	const code = named ?? (foreign ? null : home)
	const known = code === null ? undefined : countries[code]
	if (!known || code === null)
		return home && countries[home] ? `${number} is not of the form of ${exampleOf(home)}` : ''
	const bare = plain.replace(/^(GR|EL)/, 'EL')
	const whole = `${bare.startsWith(known.letters) ? '' : known.letters}${bare}`
	const behind = known.behind && !/[A-Z]$/.test(whole) ? known.behind : ''
	const found = known.validate(whole + behind)
	if (!found.isValid)
		return found.error?.name === 'InvalidChecksum'
			? `${number} has a wrong check digit`
			: `${number} is not of the form of ${exampleOf(code)}`
	const same = home === null || home === code || (home === 'GB' && code === 'XI') || (home === 'XI' && code === 'GB')
	return same ? '' : `${number} is a number of ${nameOf(code)}, and they are in ${country}`
}

const nameOf = (code: string): string =>
	code === 'XI' ? 'Northern Ireland' : (new Intl.DisplayNames(['en'], { type: 'region' }).of(code) ?? code)
const exampleOf = (code: string): string => `a number of ${nameOf(code)} such as ${countries[code]?.example}`

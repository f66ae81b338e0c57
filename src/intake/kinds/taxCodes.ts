import { field } from './field'
import type { FileKindRules } from './fileKind'
import { taxNames } from './shared'

const taxCodesFields = [
	field('code', 'Tax code', 'text', `code,${taxNames}`, { needed: true }),
	field('name', 'Name', 'text', 'description,text,bezeichnung,libellé,omschrijving,beskrivelse'),
	field(
		'rate',
		'Rate %',
		'percent',
		'rate,percent,%,satz,satz %,prozent,taux,taux %,tipo,tipo %,percentage,tarief,sats,sats %',
		{ needed: true },
	),
	field('from', 'From', 'day', 'valid from,from date,since,gültig ab,ab,à partir de,desde,vanaf,fra,från'),
]

export const taxCodesKind: FileKindRules = {
	fields: taxCodesFields,
	owns: [],
	record: 'tax code',
	told: true,
	key: 'code',
}

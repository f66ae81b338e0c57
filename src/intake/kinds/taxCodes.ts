import { field } from './field'
import type { FileKindRules } from './fileKind'
import { fieldsIn, type MasterRow } from './master'
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

function taxCodeFields(row: MasterRow) {
	const code = row.get('code').toUpperCase()
	const from = row.get('from') || '2000-01-01'
	const { fields, text } = fieldsIn(row)
	fields.code = code
	text('name', 'name')
	fields.rate = row.get('rate')
	fields.from_day = from
	return { key: `${code} ${from}`, fields }
}

export const taxCodesKind: FileKindRules = {
	fields: taxCodesFields,
	owns: [],
	record: 'tax code',
	told: true,
	master: { key: 'code', made: taxCodeFields },
}

import { plainName } from '@/intake/kinds/field'
import { hasField } from '@/layout/fields'
import type { Field, PaperKind } from '@/layout/fieldTypes'
import { fieldNames, owners } from './names'

/** Why a field is offered for a mark. */
export type Offer = { field: string; by: 'name' | 'place' | 'name and place' | 'the form before' }

/** Names that say so little that what stands before a mark counts for more. */
const bare = new Set(
	'number,no,nr,nummer,numéro,número,date,datum,fecha,dato,name,nom,naam,navn,namn,nombre,amount,betrag,montant,importe,bedrag,beløp,belopp,value,wert,reference,ref,text,code,field,feld,champ,campo,total,sum,id,address,adresse'
		.split(',')
		.map(plainName),
)

/** A name's words: at signs, blanks and where small letters turn to capitals. */
const wordsOf = (name: string): string[] =>
	name
		.replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2')
		.split(/[^\p{L}\p{N}%#]+/u)
		.map(plainName)
		.filter(Boolean)

/** What a picture of the firm's own may be called, whatever the field is. */
const pictureNames =
	'picture,photo,photograph,image,bild,foto,abbildung,photographie,imagen,fotografía,afbeelding,bilde,billede'
		.split(',')
		.map(plainName)

/** Field keys by what they are called; the firm's own fields under their own names. */
export type Vocabulary = {
	byName: Map<string, string[]>
	fields: Map<string, Field>
	/** Without owner, the rest of a name is looked for among the fields that it owns. */
	owner: Map<string, string[]>
}

/** The names under which fields are offered for a kind of paper, and what each name may mean. */
export function vocabularyOf(fields: Iterable<Field>, kind: PaperKind): Vocabulary {
	const byName = new Map<string, string[]>()
	const known = new Map<string, Field>()
	const add = (name: string, key: string) => {
		const own = byName.get(name) ?? []
		if (!own.includes(key)) byName.set(name, [...own, key])
	}
	for (const field of fields) {
		if (!hasField(field, kind)) continue
		known.set(field.key, field)
		add(plainName(field.key), field.key)
		for (const name of fieldNames[field.key] ?? []) add(name, field.key)
		if (!fieldNames[field.key]) add(plainName(field.name), field.key)
		if (field.type === 'picture' && !fieldNames[field.key]) for (const name of pictureNames) add(name, field.key)
	}
	const owner = new Map<string, string[]>()
	for (const [key, names] of Object.entries(owners))
		for (const name of names) owner.set(name, [...(owner.get(name) ?? []), key])
	return { byName, fields: known, owner }
}

/** Fields whose record stands in reach: of the whole paper, and of the row where the mark stands in a repeated one. */
const inReach = (vocabulary: Vocabulary, keys: readonly string[], records: readonly string[]): string[] =>
	keys.filter((key) => {
		const of = vocabulary.fields.get(key)?.of
		return of !== undefined && records.includes(of)
	})

/** The fields that a name says, the nearest first: those of the row before those of the paper. */
export function fieldsNamed(vocabulary: Vocabulary, name: string, records: readonly string[]): string[] {
	const order = (keys: string[]) =>
		keys.sort(
			(a, b) =>
				records.indexOf(vocabulary.fields.get(a)?.of ?? '') - records.indexOf(vocabulary.fields.get(b)?.of ?? ''),
		)
	const whole = inReach(vocabulary, vocabulary.byName.get(plainName(name)) ?? [], records)
	if (whole.length > 0) return order(whole)
	// "customer_email", "klantadres": whose it is stands before what it is, or behind it ("Telefon Firma").
	const words = wordsOf(name)
	if (words.length === 1) words.splice(0, 1, ...parted(vocabulary, words[0] ?? ''))
	for (let cut = words.length - 1; cut >= 1; cut--)
		for (const [mine, rest] of [
			[words.slice(0, cut), words.slice(cut)],
			[words.slice(-cut), words.slice(0, -cut)],
		] as const)
			for (const owner of vocabulary.owner.get(mine.join('')) ?? []) {
				const known = vocabulary.byName.get(rest.join('')) ?? []
				// What another owner calls "address" is this one's address too.
				const mineToo = known.map((key) => `${owner}.${key.split('.').at(-1)}`)
				const found = inReach(vocabulary, [...new Set([...known, ...mineToo])], records).filter((key) =>
					owner === 'document' ? !key.includes('.') : key.startsWith(`${owner}.`),
				)
				if (found.length > 0) return order(found)
			}
	return []
}

/** A word put together from whose a thing is and what it is, parted. */
function parted(vocabulary: Vocabulary, word: string): string[] {
	for (const owner of [...vocabulary.owner.keys()].sort((a, b) => b.length - a.length)) {
		if (owner.length < 3) continue
		const rest = word.startsWith(owner) ? word.slice(owner.length) : ''
		// German and its neighbours join the two with a letter: "Kundennummer", "Rechnungsdatum".
		for (const own of [rest, rest.replace(/^(en|n|s|e)/, '')])
			if (own.length > 2 && vocabulary.byName.has(own)) return [owner, own]
	}
	return [word]
}

/** What a mark stands behind: "Date:", a cell beside it, the head of its column. */
export function labelFields(vocabulary: Vocabulary, label: string, records: readonly string[]): string[] {
	const own = label.replace(/[\s:.…]+$/u, '').trim()
	if (own === '' || own.length > 40) return []
	const whole = fieldsNamed(vocabulary, own, records)
	if (whole.length > 0) return whole
	// "Our VAT number / Steuernummer": each of several languages says it.
	const parts = own.split(/[/|·–]| - /).map((part) => part.trim())
	const each =
		parts.length > 1
			? parts.map((part) => fieldsNamed(vocabulary, part, records)).filter((keys) => keys.length > 0)
			: []
	return each[0] ?? []
}

/**
 * The field that a mark most likely stands for, by its name and by its place; none where nothing says so.
 * @param records what is in reach, the nearest first: `line` and `paper` in a row that is repeated for each line
 */
export function offerFor(
	vocabulary: Vocabulary,
	name: string,
	label: string,
	records: readonly string[],
): Offer | null {
	const named = fieldsNamed(vocabulary, name, records)
	const placed = labelFields(vocabulary, label, records)
	const both = named.find((key) => placed.includes(key))
	if (both) return { field: both, by: 'name and place' }
	const [byOwnName] = named
	const [byPlace] = placed
	if (byOwnName && byPlace)
		return bare.has(plainName(name)) ? { field: byPlace, by: 'place' } : { field: byOwnName, by: 'name' }
	if (byOwnName) return { field: byOwnName, by: 'name' }
	return byPlace ? { field: byPlace, by: 'place' } : null
}

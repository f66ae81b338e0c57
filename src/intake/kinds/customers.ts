import { minorNumber } from '@/core/currency'
import { customerTexts } from '@/core/customerTexts'
import { parseTerms, termsText } from '@/core/dueDate'
import { attempt } from '@/core/refusal'
import { field } from './field'
import type { FileKindRules } from './fileKind'
import { fieldsIn, type HomeBooks, type MasterRow } from './master'
import { currencyNames, customerNumberNames, deliveryFields, deliveryOf } from './shared'

export const customersFields = [
	field('number', 'Customer number', 'text', customerNumberNames, { needed: true, weak: 'number,code,no,nummer,nr' }),
	field(
		'name',
		'Customer',
		'text',
		'name,customer name,company,firma,kunde,kundenname,nom,client,nom du client,raison sociale,nombre,cliente,nombre del cliente,naam,klant,klantnaam,navn,kundenavn,namn,kund,kundnamn',
	),
	field(
		'address1',
		'Address 1',
		'text',
		'address,address line 1,street,straße,strasse,anschrift,adresse,adresse 1,rue,dirección,calle,adres,straat,adress,gatuadress,gate',
	),
	field('address2', 'Address 2', 'text', 'address line 2,adresse 2'),
	field('address3', 'Address 3', 'text', 'address line 3,adresse 3'),
	field('address4', 'Address 4', 'text', 'address line 4,town,city,ort,stadt,ville,ciudad,plaats,sted,by,stad'),
	field('address5', 'Address 5', 'text', 'address line 5,region,county,provinz,région,provincia'),
	field(
		'address6',
		'Address 6',
		'text',
		'address line 6,postcode,postal code,zip,plz,postleitzahl,code postal,código postal,postnummer,postnr',
	),
	field('country', 'Country', 'text', 'country code,land,pays,país'),
	field('email', 'Email', 'text', 'e-mail,mail,invoice email,email address,courriel,correo,epost,e-post'),
	...customerTexts.map(({ key, name, columns }) => field(key, name, 'text', columns)),
	field('currency', 'Currency', 'text', currencyNames),
	field('locale', 'Locale', 'text', 'language,sprache,langue,idioma,taal,språk,sprog'),
	field(
		'terms',
		'Terms',
		'text',
		'payment terms,zahlungsbedingungen,zahlungsziel,conditions de paiement,condiciones de pago,betalingstermijn,betalingsbetingelser,betalningsvillkor',
	),
	field('tax', 'Tax treatment', 'text', 'tax status,vat status'),
	field(
		'taxNumber',
		'Tax number',
		'text',
		'vat number,vat no,ust idnr,ustid,umsatzsteuernummer,n° tva,numéro de tva,nif,cif,btw nummer,mva nummer,momsnummer,cvr',
	),
	field('grouping', 'Invoices', 'text', 'grouping,invoice per,billing'),
	field(
		'creditLimit',
		'Credit limit',
		'amount',
		'limit,kreditlimit,limite de crédit,límite de crédito,kredietlimiet,kredittgrense,kreditgräns',
	),
	field('discount', 'Standing discount %', 'percent', 'customer discount %,standing discount,discount %'),
	field('statementEmail', 'Email for statements', 'text', 'statement email,accounts email'),
	field('cc', 'Copy to', 'text', 'cc,email copy'),
	field('statements', 'Gets statements', 'text', 'statements'),
	field('wantsOrder', 'Wants purchase order', 'text', 'po required,order number required'),
	...deliveryFields,
]

const groupings: Record<string, string> = {
	order: 'order',
	'one an order': 'order',
	'per order': 'order',
	all: 'all',
	'one for all': 'all',
	'purchase order': 'purchase-order',
	'purchase-order': 'purchase-order',
	'per purchase order': 'purchase-order',
}
const treatments: Record<string, string> = {
	standard: 'standard',
	exempt: 'exempt',
	'reverse charge': 'reverse-charge',
	'reverse-charge': 'reverse-charge',
}
const yes = /^(yes|y|1|true|ja|j|oui|si|sí)$/i
const no = /^(no|n|0|false|nein|non|nee|nei|nej)$/i

function customerFields(row: MasterRow, { homeCurrency, currencyOf }: HomeBooks) {
	const key = row.get('number').toUpperCase()
	const { fields, text, word, mail } = fieldsIn(row)
	fields.number = key
	text('name', 'name')
	const lines = [1, 2, 3, 4, 5, 6].map((line) => `address${line}`)
	if (lines.some(row.has)) fields.address = lines.map(row.get).filter(Boolean).join('\n')
	text('country', 'country')
	for (const { key } of customerTexts) text(key, key)
	text('tax_number', 'taxNumber')
	mail('email', 'email')
	mail('statement_email', 'statementEmail')
	mail('cc', 'cc')
	if (row.get('currency') !== '') fields.currency = row.get('currency').toUpperCase()
	if (row.get('locale') !== '') fields.locale = row.get('locale')
	if (row.get('terms') !== '') {
		const terms = parseTerms(row.get('terms'))
		if (terms) fields.terms = termsText(terms)
		else
			row.refuse(
				'terms',
				'These terms are not understood. Write “30 days”, “30 days from end of month”, “15th of next month” or “on receipt”.',
			)
	}
	word('tax', 'tax', treatments, 'Tax treatment is standard, exempt or reverse charge.')
	word('grouping', 'grouping', groupings, 'Write “order”, “all” or “purchase order”.')
	if (row.get('discount') !== '') fields.discount = row.get('discount')
	if (row.has('creditLimit')) {
		const currency = String(fields.currency ?? currencyOf(key) ?? homeCurrency)
		const { text, currency: named } = row.value('creditLimit')
		if (named !== '' && named !== currency)
			row.refuse('creditLimit', `It is in ${named}, but the customer's currency is ${currency}. Make them agree.`)
		const limit = attempt(() => minorNumber(text, currency, 'creditLimit'))
		if (text === '') fields.credit_limit = null
		else if (limit.ok) fields.credit_limit = limit.value
		else row.refuse('creditLimit', limit.refusal.message)
	}
	const flag = (name: string, field: string) => {
		const given = row.get(field)
		if (given === '') return
		if (yes.test(given) || no.test(given)) fields[name] = yes.test(given) ? 1 : 0
		else row.refuse(field, 'Write yes or no.')
	}
	flag('statements', 'statements')
	flag('wants_order', 'wantsOrder')
	if ([1, 2, 3, 4, 5, 6].some((line) => row.has(`delivery${line}`))) fields.delivery = deliveryOf(row.get)
	return { key, fields }
}

export const customersKind: FileKindRules = {
	fields: customersFields,
	owns: ['customer'],
	record: 'customer',
	told: true,
	master: { key: 'number', made: customerFields },
}

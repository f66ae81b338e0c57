import { customerTexts } from '@/core/customerTexts'
import { field } from './field'
import type { FileKindRules } from './fileKind'
import { currencyNames, customerNumberNames, deliveryFields } from './shared'

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

export const customersKind: FileKindRules = {
	fields: customersFields,
	owns: ['customer'],
	record: 'customer',
	told: true,
	key: 'number',
}

import { field } from './field'
import type { FileKindRules } from './fileKind'
import { currencyNames, customerNumberNames } from './shared'

const openItemsFields = [
	field('customer', 'Customer number', 'text', customerNumberNames, {
		needed: true,
		weak: 'customer,kunde,client,cliente,klant,kund',
	}),
	field(
		'number',
		'Document number',
		'text',
		'document no,doc no,document,invoice no,invoice number,reference,belegnummer,beleg nr,rechnungsnummer,n° facture,numéro de facture,número de factura,factuurnummer,fakturanummer,fakturanr',
		{ needed: true },
	),
	field('kind', 'Kind', 'text', 'type,document type,doc type,belegart,art,typ,tipo,soort', { needed: true }),
	field(
		'day',
		'Document date',
		'day',
		'date,doc date,invoice date,belegdatum,rechnungsdatum,date de facture,fecha de factura,factuurdatum,fakturadato,fakturadatum',
		{ needed: true },
	),
	field(
		'due',
		'Due date',
		'day',
		'due,due on,fällig,fällig am,fälligkeit,échéance,date d’échéance,vencimiento,fecha de vencimiento,vervaldatum,forfallsdato,forfaldsdato,förfallodatum',
		{ needed: true },
	),
	field(
		'amount',
		'Amount',
		'amount',
		'original amount,document amount,total,betrag,rechnungsbetrag,montant,importe,bedrag,beløp,beløb,belopp',
		{ needed: true },
	),
	field(
		'open',
		'Open amount',
		'amount',
		'open,outstanding,balance,remaining,offen,offener betrag,solde,reste dû,pendiente,saldo,openstaand,utestående,udestående,restbeløp,restbeløb,restbelopp',
		{ needed: true },
	),
	field('currency', 'Currency', 'text', currencyNames),
	field('theirOrder', 'Their order', 'text', 'purchase order,po,po ref,customer ref,order no'),
]

export const openItemsKind: FileKindRules = {
	fields: openItemsFields,
	owns: [],
	record: 'account',
	told: true,
	master: null,
}

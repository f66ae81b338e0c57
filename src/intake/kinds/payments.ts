import { field } from './field'
import type { FileKindRules } from './fileKind'
import { currencyNames, customerNumberNames } from './shared'

const paymentsFields = [
	field(
		'day',
		'Date',
		'day',
		'paid on,payment date,received,day,booking date,datum,buchungstag,date,fecha,dato,bokføringsdato,bogføringsdato,bokföringsdag',
		{ needed: true, weak: 'value date,valuta,wertstellung,date de valeur,fecha valor' },
	),
	field('customer', 'Customer number', 'text', `${customerNumberNames},customer`),
	field(
		'name',
		'Payer',
		'text',
		'payer name,name,from,remitter,debtor,auftraggeber,zahler,name zahlungsbeteiligter,donneur d’ordre,ordenante,betaler,afzender,avsender,afsender,avsändare',
	),
	field(
		'amount',
		'Amount',
		'amount',
		'paid,payment,received amount,credit,betrag,montant,crédit,importe,abono,bedrag,beløp,beløb,belopp',
		{ needed: true },
	),
	field('currency', 'Currency', 'text', currencyNames.replace(',valuta', '')),
	field(
		'reference',
		'Reference',
		'text',
		'ref,payment ref,details,remittance,narrative,verwendungszweck,zahlungsreferenz,référence,libellé,motif,concepto,referencia,omschrijving,mededeling,tekst,melding,meddelelse,meddelande,text,memo',
		{ needed: true },
	),
]

export const paymentsKind: FileKindRules = {
	fields: paymentsFields,
	owns: [],
	record: 'payment',
	told: true,
	master: null,
}

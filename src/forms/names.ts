import { customerTexts } from '@/core/customerTexts'
import { customersFields } from '@/intake/kinds/customers'
import { plainName } from '@/intake/kinds/field'
import { ordersFields } from '@/intake/kinds/orders'

// What firms call our fields, in English, German, French, Spanish, Dutch, Norwegian, Danish and Swedish. What columns of files are called is
// taken from there (`intake/kinds`).

const list = (names: string): string[] => names.split(',').map(plainName).filter(Boolean)
const columnNames = (fields: typeof ordersFields, key: string): string[] => {
	const field = fields.find((one) => one.key === key)
	return field ? [...field.names, ...field.weak] : []
}
const ofOrders = (key: string) => columnNames(ordersFields, key)
const ofCustomers = (key: string) => columnNames(customersFields, key)

const numberNames = list(
	'number,no,nr,nummer,numéro,número,invoice no,invoice number,invoice nr,invoice,inv no,inv number,document no,document number,credit note no,credit note number,statement no,doc no,' +
		'rechnungsnummer,rechnung nr,rechnungsnr,re nr,rgnr,rechnung,belegnummer,belegnr,gutschriftsnummer,' +
		'n° facture,nº facture,numéro de facture,facture n°,facture,numéro facture,' +
		'número de factura,factura,factura nº,factura n°,nº de factura,nº factura,' +
		'factuurnummer,factuur nr,factuurnr,factuur,' +
		'fakturanummer,faktura nr,fakturanr,faktura',
)

const taxNames = list(
	'tax,vat,tax total,total tax,vat total,total vat,vat amount,tax amount,mwst,ust,umsatzsteuer,mehrwertsteuer,steuer,steuerbetrag,mwst betrag,tva,montant tva,total tva,iva,cuota iva,total iva,importe iva,btw,btw bedrag,totaal btw,mva,mva beløp,sum mva,moms,momsbeløb,momsbelopp',
)

/** Names by the key of a field. A name that fits several stands under each. */
export const fieldNames: Record<string, readonly string[]> = {
	title: list('document title,document type,belegart,dokumentart,type de document,tipo de documento,documenttype'),
	number: numberNames,
	day: list(
		'date,day,invoice date,document date,issue date,issued,issued on,date of invoice,datum,rechnungsdatum,belegdatum,ausstellungsdatum,date de facture,date facture,date de la facture,date d’émission,le,fecha,fecha de factura,fecha factura,fecha de emisión,factuurdatum,dato,fakturadato,fakturadatum,utstedt,statement date,date of statement,as of,stichtag',
	),
	'due-day': list(
		'due,due date,due on,due by,date due,pay by,payable by,payment due,due day,maturity,fällig,fällig am,fälligkeit,fälligkeitsdatum,zahlbar bis,zahlbar am,zahlungsziel,échéance,date d’échéance,à payer avant,à régler avant,vencimiento,fecha de vencimiento,fecha vencimiento,vence,vervaldatum,vervaldag,te betalen voor,forfall,forfallsdato,forfaldsdato,forfald,betales innen,förfallodatum,förfaller,betala senast',
	),
	currency: ofOrders('currency'),
	terms: [
		...ofCustomers('terms'),
		...list(
			'terms of payment,betalingsvilkår,betalingsvoorwaarden,zahlungskonditionen,modalités de paiement,forma de pago,betalningsvillkor',
		),
	],
	reason: list('reason,reason for credit,grund,motif,motivo,reden,årsak,orsak,årsag'),
	'credits.number': list(
		'credits invoice,original invoice,invoice credited,zu rechnung,gutschrift zu,facture d’origine,factura original,oorspronkelijke factuur',
	),
	'credits.day': list('original invoice date,date of the invoice credited'),
	'supply.from': list(
		'supply date,date of supply,delivery date,delivered,delivered on,service date,tax point,lieferdatum,leistungsdatum,liefertermin,date de livraison,livraison,fecha de entrega,leverdatum,leveringsdato,leveransdatum,levert',
	),
	'your-orders': [
		...ofOrders('purchaseOrder').filter((name) => name !== 'bestellnummer'),
		...list(
			'your order,your order no,your po,reference,ref,our ref,bestellnummer,ihre bestellnummer,ihre referenz,votre commande,vos références,su pedido,uw bestelling,uw order,deres ordre,er beställning,er order,bestellung vom',
		),
	],
	orders: [...ofOrders('order'), ...list('orders,our order,order numbers,aufträge,unsere auftragsnummer')],
	page: list('page,seite,page no,página,pagina,side,sida'),
	pages: list('pages,page count,seiten,seitenzahl,páginas,sider,sidor'),

	'customer.number': [
		...ofCustomers('number').filter((name) => !['number', 'code', 'no', 'nummer', 'nr'].includes(name)),
		...list('customer no,client ref,your number,kundennr,klantnr'),
	],
	'customer.name': [
		...ofCustomers('name'),
		...list(
			'bill to,billed to,sold to,to,recipient,addressee,empfänger,an,rechnungsempfänger,destinataire,à,facturé à,destinatario,facturar a,aan,ontvanger,til,mottaker,modtager,till,mottagare,account name',
		),
	],
	'customer.address': [
		...ofCustomers('address1'),
		...list(
			'billing address,bill to address,invoice address,rechnungsadresse,rechnungsanschrift,kundenadresse,adresse de facturation,dirección de facturación,factuuradres,fakturaadresse,fakturaadress,customer address,address block,adressblock,anschrift',
		),
	],
	'customer.tax-number': [
		...ofCustomers('taxNumber'),
		...list(
			'customer vat,your vat,your vat number,vat id,vat reg no,ust id,ust id nr,ihre ust id,tva client,nif cliente,btw nr,org nr,organisasjonsnummer',
		),
	],
	'customer.country': ofCustomers('country'),
	...Object.fromEntries(
		customerTexts.map(({ key, onForms }) => [`customer.${key}`, [...ofCustomers(key), ...list(onForms)]]),
	),
	'customer.email': ofCustomers('email'),
	'delivery.address': list(
		'delivery address,deliver to,ship to,shipping address,delivered to,lieferadresse,lieferanschrift,adresse de livraison,livré à,dirección de entrega,afleveradres,leveringsadresse,leveransadress',
	),

	'issuer.name': list(
		'our name,firm,company name,our company,sender,from,seller,absender,firma,firmenname,société,entreprise,expéditeur,empresa,bedrijf,företag,emisor,remitente,afzender,avsender,avsändare,issuer,supplier name',
	),
	'issuer.address': list(
		'our address,company address,sender address,firmenadresse,firmenanschrift,adresse société,dirección empresa,bedrijfsadres,firmaadresse',
	),
	'issuer.tax-number': list(
		'our vat,our vat number,company vat,our tax number,unsere ust id,unsere steuernummer,notre tva,nuestro nif,ons btw nummer,vårt org nr,steuernummer',
	),
	'issuer.email': list('our email,company email,our e-mail,unsere e-mail,firmenmail'),
	'issuer.phone': list('phone,telephone,tel,our phone,telefon,téléphone,teléfono,telefoon,tlf,company phone'),
	'issuer.bank': list(
		'bank,bank details,bank account,our bank,iban,account details,pay to,bankverbindung,bankkonto,coordonnées bancaires,rib,datos bancarios,cuenta bancaria,bankgegevens,bankrekening,bankkonto,bankuppgifter',
	),
	'issuer.closing-words': list(
		'closing words,closing,schlusstext,schlußtext,texte de fin,texto final,slottekst,footer text,thanks',
	),
	'issuer.logo': list('logo,firm logo,company logo,firmenlogo'),

	subtotal: list(
		'subtotal,sub total,goods,goods total,zwischensumme,warenwert,sous total,base imponible previa,subtotaal,delsum,delsumma',
	),
	'discount-total': list(
		'total discount,discounts,discount total,discount,rabatt,rabatt gesamt,remise totale,remise,descuento total,descuento,korting,totale korting,rabat',
	),
	'charge-total': [...ofOrders('freight'), ...list('charges,freight and charges,versand,frais,cargos,toeslagen')],
	net: list(
		'net,net total,net amount,total net,total excl vat,total excluding vat,total before tax,netto,nettosumme,nettobetrag,summe netto,gesamt netto,total ht,montant ht,net ht,base imponible,total neto,importe neto,totaal excl btw,netto totaal,netto beløp,sum eks mva,nettosum,netto summa,summa exkl moms',
	),
	'tax-total': taxNames,
	total: list(
		'total,grand total,invoice total,total amount,total incl vat,total gross,gross,gross total,amount,sum,gesamt,gesamtbetrag,gesamtsumme,summe,rechnungsbetrag,endbetrag,bruttobetrag,brutto,betrag,total ttc,montant ttc,montant total,total général,importe total,total factura,importe,totaal,totaal incl btw,totaalbedrag,factuurbedrag,sum,totalsum,totalt,total inkl mva,i alt,ialt,totalbeløb,summa,totalbelopp,att betala totalt',
	),
	prepaid: list(
		'paid,prepaid,already paid,deposit,anzahlung,bereits bezahlt,acompte,anticipo,vooruitbetaald,aanbetaling,forskudd,forskud,förskott',
	),
	'amount-due': list(
		'amount due,balance due,to pay,total due,due amount,amount payable,please pay,zahlbetrag,zu zahlen,zu zahlender betrag,offener betrag,net à payer,à payer,montant dû,solde dû,a pagar,importe a pagar,total a pagar,te betalen,te voldoen,å betale,til betaling,at betale,att betala,skyldig beløp',
	),
	grounds: list(
		'tax note,vat note,exemption,exemption note,reason no tax,reverse charge note,steuerhinweis,steuerbefreiung,hinweis steuer,mention tva,exonération,nota iva,exención,btw vermelding,avgiftsmerknad,momsnote,momsnotering',
	),
	'past-due': list('past due,overdue,überfällig,en retard,échu,vencido,achterstallig,forfalt,forfalden,förfallet'),
	balance: list('balance,account balance,saldo,kontostand,solde,saldi'),
	unapplied: list('credit,to your credit,unapplied,guthaben,avoir,saldo a favor,tegoed,til gode,tillgodo'),
	disputed: list('disputed,in dispute,strittig,en litige,en disputa,betwist'),

	'line.number': list('pos,position,line,line no,ligne,línea,regel,linje,rad,#,item pos'),
	'line.row': list('row,row no,lfd nr'),
	'line.item': [...ofOrders('item'), ...list('article code')],
	'line.description': ofOrders('description'),
	'line.quantity': ofOrders('quantity'),
	'line.unit': ofOrders('unit'),
	'line.price': ofOrders('unitPrice'),
	'line.price-per': ofOrders('pricePer'),
	'line.discount-percent': [...ofOrders('lineDiscount')],
	'line.discount': ofOrders('lineDiscountAmount'),
	'line.net': [...ofOrders('lineTotal'), ...list('total price,value,wert,zeilensumme,total')],
	'line.tax-code': [
		...ofOrders('taxCode').filter((name) => !['vat', 'tax', 'mwst', 'tva', 'iva', 'btw', 'mva', 'moms'].includes(name)),
	],
	'line.tax-rate': list(
		'vat,tax,vat %,tax %,vat rate,tax rate,mwst,mwst %,mwst satz,ust,ust %,steuersatz,tva,tva %,taux tva,iva,iva %,tipo iva,btw,btw %,btw tarief,mva,mva %,moms,moms %,momssats',
	),
	'line.order.number': list(
		'order,order no,order number,auftrag,auftragsnummer,commande,pedido,ordernummer,ordre,ordrenummer',
	),
	'line.order.purchaseOrder': list('po,your order,purchase order,ihre bestellung,votre commande,su pedido,uw order'),
	'line.order.day': list('order date,ordered,auftragsdatum,date de commande,fecha de pedido,orderdatum,ordredato'),

	'order.number': [...ofOrders('order'), ...list('number,no,nr,nummer,numéro,número')],
	'order.day': [...ofOrders('day')],
	'order.purchaseOrder': ofOrders('purchaseOrder'),
	'order.delivery': list('delivery,delivered to,delivery address,deliver to,lieferadresse,livraison,entrega,levering'),

	'tax.code': list('code,tax code,vat code,steuercode,code tva,código,btw code,mva kode,momskod'),
	'tax.name': list('name,tax name,bezeichnung,description,désignation,omschrijving,beskrivelse'),
	'tax.rate': list(
		'rate,tax rate,vat rate,%,vat %,tax %,percent,satz,steuersatz,mwst satz,mwst %,taux,taux tva,tipo,tarief,btw %,sats,momssats,mva sats',
	),
	'tax.base': list(
		'base,tax base,taxable,taxable amount,net,net amount,bemessungsgrundlage,netto,base ht,base imponible,grondslag,grunnlag,grundlag,underlag,nettobetrag',
	),
	'tax.amount': [...taxNames, ...list('amount,montant,cuota,importe,bedrag,beløp,belopp,beløb')],

	'item.number': [...numberNames, ...list('document,reference,beleg,pièce,documento,bilag')],
	'item.day': list(
		'date,invoice date,document date,datum,rechnungsdatum,belegdatum,date facture,fecha,factuurdatum,dato,fakturadato,fakturadatum',
	),
	'item.due-day': list(
		'due,due date,fällig,fällig am,fälligkeit,échéance,vencimiento,vervaldatum,forfall,forfallsdato,forfaldsdato,förfallodatum',
	),
	'item.their-order': list(
		'po,your order,your ref,their order,ihre bestellung,votre commande,su pedido,uw referentie,deres ref,er referens,purchase order',
	),
	'item.amount': list(
		'amount,original,original amount,invoice amount,total,betrag,rechnungsbetrag,montant,importe,bedrag,beløp,beløb,belopp',
	),
	'item.open': list(
		'open,outstanding,balance,remaining,open amount,due amount,offen,offener betrag,restbetrag,reste,restant,solde,pendiente,saldo,openstaand,openstaand bedrag,rest,utestående,restbeløb,restbelopp',
	),
	'item.days-late': list(
		'days,days late,days overdue,days past due,overdue,tage,tage überfällig,verzugstage,jours,jours de retard,días,días de retraso,dagen,dagen te laat,dager,dage,dagar',
	),

	'movement.day': list('date,day,datum,fecha,dato'),
	'movement.words': list(
		'description,text,details,what,transaction,document,type,beschreibung,vorgang,buchungstext,libellé,concepto,omschrijving,beskrivelse,beskrivning,tekst',
	),
	'movement.amount': list('amount,debit,change,betrag,umsatz,montant,importe,bedrag,beløp,beløb,belopp'),
	'movement.balance': list('balance,running balance,saldo,solde,kontostand'),
}

/** Words before a name that say whose it is, by where its fields' keys begin. */
export const owners: Record<string, readonly string[]> = {
	customer: list(
		'customer,client,cust,bill to,billto,billing,buyer,recipient,debtor,kunde,kunden,käufer,empfänger,client,acheteur,cliente,comprador,klant,koper,kjøper,køber,kund,köpare,account',
	),
	delivery: list('delivery,ship to,shipto,shipping,lieferung,livraison,entrega,levering,leverans'),
	issuer: list(
		'issuer,firm,company,our,my,seller,sender,supplier,firma,unternehmen,absender,verkäufer,société,vendeur,entreprise,empresa,emisor,vendedor,bedrijf,afzender,verkoper,selger,avsender,sælger,säljare,avsändare,self',
	),
	line: list(
		'line,lines,row,pos,position,zeile,posten,ligne,línea,regel,linje,rad,product,produkt,produit,producto,detail,entry',
	),
	order: list('order,auftrag,commande,pedido,ordre,bestellung'),
	tax: list('tax,vat,steuer,mwst,tva,iva,btw,mva,moms'),
	item: list('open item,openitem,post,open'),
	movement: list('movement,entry,transaction,buchung'),
	document: list(
		'invoice,document,doc,inv,bill,credit note,statement,rechnung,beleg,facture,factura,factuur,faktura,header',
	),
}

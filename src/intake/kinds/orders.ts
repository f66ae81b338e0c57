import { field } from './field'
import type { FileKindRules } from './fileKind'
import {
	currencyNames,
	customerNumberNames,
	deliveryFields,
	itemNames,
	perNames,
	priceNames,
	taxNames,
	textNames,
	unitNames,
} from './shared'

export const ordersFields = [
	field(
		'order',
		'Order number',
		'text',
		'order no,order nr,order,order ref,so number,sales order,sales order no,sales order number,order id,' +
			'auftragsnummer,auftrag,auftrags nr,auftragsnr,bestellnummer,' +
			'n° de commande,nº de commande,no de commande,numéro de commande,n° commande,numéro commande,commande,' +
			'número de pedido,número pedido,n° pedido,nº pedido,n° de pedido,nº de pedido,no pedido,pedido,' +
			'ordernummer,ordernr,bestelnummer,' +
			'ordrenummer,ordre nr,ordrenr,ordre',
		{ needed: true, weak: 'number,no,nr,nummer,numéro,número' },
	),
	field(
		'day',
		'Order date',
		'day',
		'ordered,ordered on,date of order,auftragsdatum,bestelldatum,date de commande,date commande,fecha de pedido,fecha pedido,fecha del pedido,orderdatum,besteldatum,ordredato,bestillingsdato,beställningsdatum',
		{ needed: true, weak: 'date,day,datum,fecha,dato,tag,document date,belegdatum' },
	),
	field('customer', 'Customer number', 'text', customerNumberNames, {
		needed: true,
		weak: 'customer,kunde,client,cliente,klant,kund',
	}),
	field(
		'purchaseOrder',
		'Purchase order',
		'text',
		'po,po ref,po number,po no,their order,their ref,customer ref,customer reference,your ref,your reference,purchase order no,purchase order number,customer order,customer po,' +
			'kundenbestellnummer,bestellnummer,ihre bestellung,ihr zeichen,kundenreferenz,bestellnummer kunde,' +
			'référence client,votre référence,n° commande client,bon de commande,' +
			'referencia cliente,referencia del cliente,su referencia,su pedido,' +
			'uw referentie,klantreferentie,inkoopordernummer,' +
			'deres ref,deres referanse,deres reference,kundereferanse,kundereference,innkjøpsordre,rekvisition,' +
			'er referens,kundreferens,inköpsorder',
	),
	field('currency', 'Currency', 'text', currencyNames),
	field('item', 'Item', 'text', itemNames, { of: 'line', weak: 'code,référence,referencia,ref' }),
	field('description', 'Description', 'text', textNames, { of: 'line' }),
	field(
		'quantity',
		'Quantity',
		'quantity',
		'qty,units ordered,number of units,qty ordered,quantity ordered,menge,anzahl,stückzahl,bestellmenge,quantité,qté,cantidad,cant,aantal,hoeveelheid,antall,mengde,antal,mængde,kvantitet',
		{ needed: true, of: 'line' },
	),
	field('unit', 'Unit', 'text', unitNames, { of: 'line' }),
	field('unitPrice', 'Unit price', 'amount', priceNames, { of: 'line' }),
	field('pricePer', 'Price per', 'number', perNames, { of: 'line' }),
	field(
		'lineDiscount',
		'Line discount',
		'discount',
		'line discount %,disc %,discount %,line disc %,disc,discount,line disc,rabatt,rabatt %,nachlass,nachlass %,remise,remise %,descuento,descuento %,dto,dto %,korting,korting %,rabat,rabat %',
		{ of: 'line' },
	),
	field(
		'lineDiscountAmount',
		'Line discount in money',
		'amount',
		'discount amount,line discount amount,rabattbetrag,montant remise,montant de la remise,importe descuento,kortingsbedrag,rabattbeløp,rabatbeløb,rabattbelopp',
		{ of: 'line' },
	),
	field(
		'lineTotal',
		'Line total',
		'amount',
		'total line,line amount,line value,line net,net amount,extended price,extended amount,amount,' +
			'zeilensumme,zeilenbetrag,zeilentotal,positionsbetrag,positionssumme,gesamtpreis,gesamt,betrag,summe,nettobetrag,' +
			'total ligne,montant ligne,total de la ligne,montant,montant ht,total ht,' +
			'total línea,total de línea,importe línea,importe,importe total,' +
			'regeltotaal,totaal regel,regelbedrag,bedrag,totaal,' +
			'linjesum,linjetotal,linjebeløp,linjebeløb,beløp,beløb,' +
			'radsumma,radtotal,radbelopp,belopp,summa',
		{ of: 'line', weak: 'total,sum,net' },
	),
	field('taxCode', 'Tax code', 'text', taxNames, { of: 'line' }),
	field(
		'orderDiscount',
		'Order discount',
		'discount',
		'order discount %,order disc %,document discount %,total discount %,auftragsrabatt %,gesamtrabatt %,' +
			'order disc,document discount,total discount,order discount amount,auftragsrabatt,gesamtrabatt,remise commande,remise globale,descuento pedido,orderkorting,ordrerabatt,ordrerabat,orderrabatt',
	),
	field('discountName', 'Discount name', 'text', 'promotion,offer,discount scheme,aktion'),
	field(
		'freight',
		'Freight',
		'amount',
		'carriage,delivery charge,shipping,fracht,frachtkosten,versandkosten,frais de port,port,portes,gastos de envío,vrachtkosten,verzendkosten,frakt,fragt',
	),
	field('freightPercent', 'Freight %', 'percent', 'carriage %,shipping %,fracht %'),
	field(
		'orderTotal',
		'Order total',
		'amount',
		'total of order,order value,order amount,auftragssumme,auftragswert,total commande,montant commande,total pedido,importe pedido,totaal order,ordretotal,ordresum,ordersumma,ordertotaal',
	),
	field('note', 'Note', 'text', 'order note'),
	...deliveryFields,
]

export const ordersKind: FileKindRules = {
	fields: ordersFields,
	owns: ['order', 'line'],
	record: 'order',
	told: true,
	master: null,
}

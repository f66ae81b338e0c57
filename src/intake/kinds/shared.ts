import { field } from './field'

// Names are given in English, German, French, Spanish, Dutch, Norwegian, Danish and Swedish (READING, rule 20). One that fits two
// fields of a kind stands under both, so that neither is guessed.

export const customerNumberNames =
	'customer no,customer nr,cust no,cust number,account,account no,account number,customer code,customer id,cust,client no,client number,client code,' +
	'kundennummer,kunden nr,kundennr,kd nr,kdnr,debitor,debitorennummer,debitoren nr,kundencode,' +
	'n° client,nº client,no client,numéro client,numéro de client,code client,compte client,' +
	'número de cliente,número cliente,n° cliente,nº cliente,no cliente,código de cliente,código cliente,' +
	'klantnummer,klant nr,klantnr,klantcode,debiteurnummer,debiteur,debiteurnr,' +
	'kundenummer,kunde nr,kundenr,kundekode,debitornummer,kontonummer,' +
	'kundnummer,kund nr,kundnr,kundkod'
export const currencyNames =
	'curr,ccy,currency code,währung,währungscode,devise,monnaie,moneda,divisa,valuta,munt,munteenheid,valutakode,valutakod'
export const itemNames =
	'item code,item no,item number,item id,product,product code,product no,product number,sku,article,article no,article number,part no,part number,stock code,' +
	'artikel,artikelnummer,artikel nr,artikelnr,artnr,artikelcode,materialnummer,material nr,' +
	'référence article,réf article,code article,article code,code produit,référence produit,' +
	'código de artículo,código artículo,código del artículo,código de producto,código producto,artículo,referencia artículo,' +
	'artikelcode,produktnummer,varenummer,vare nr,varenr,varekode,vare'
export const textNames =
	'item description,text,details,product name,item name,product description,line description,' +
	'bezeichnung,beschreibung,artikelbezeichnung,artikeltext,artikelname,produktbezeichnung,' +
	'désignation,libellé,désignation article,' +
	'descripción,descripción artículo,detalle,denominación,' +
	'omschrijving,artikelomschrijving,productomschrijving,' +
	'beskrivelse,varetekst,varenavn,varebeskrivelse,tekst,' +
	'beskrivning,benämning,artikelbenämning'
export const unitNames =
	'uom,unit of measure,um,einheit,mengeneinheit,unité,unidad,unidad de medida,eenheid,enhet,enhed'
export const priceNames =
	'price,price each,net price,rate,each price,unit cost,' +
	'einzelpreis,preis,stückpreis,e preis,nettopreis,' +
	'prix unitaire,prix,prix unitaire ht,pu,pu ht,' +
	'precio unitario,precio,precio unidad,' +
	'stukprijs,prijs,eenheidsprijs,prijs per stuk,' +
	'enhetspris,pris,pris pr enhet,stykpris,enhedspris,styckpris,à pris,á pris'
export const perNames = 'per,price unit,preiseinheit,pro,prix par,precio por,prijs per,pris per,prisenhet,prisenhed'
export const taxNames =
	'vat code,vat,tax,tax rate code,steuercode,steuerschlüssel,steuerkennzeichen,mwst code,mwst,code tva,tva,code taxe,' +
	'código iva,código de iva,iva,código impuesto,btw code,btw,mva kode,mva,momskode,moms,momskod'

export const deliveryFields = [
	field(
		'delivery1',
		'Deliver to',
		'text',
		'delivery name,delivery address,ship to,ship to name,lieferadresse,adresse de livraison',
	),
	...[2, 3, 4, 5, 6].map((line) =>
		field(`delivery${line}`, `Delivery address ${line}`, 'text', `ship to ${line},ship to address ${line}`),
	),
]

/** The address that a row gives to deliver to, a line each. */
export const deliveryOf = (get: (key: string) => string): string =>
	[1, 2, 3, 4, 5, 6]
		.map((line) => get(`delivery${line}`))
		.filter(Boolean)
		.join('\n')

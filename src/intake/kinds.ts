import type { OwnField, OwnOf } from '@/core/ownFields'

/** What a file can hold, and what its columns may be called. Names are compared without case, spaces and signs. */
export type FieldType = 'text' | 'day' | 'decimal'
export type Field = { key: string; label: string; type: FieldType; required: boolean; names: string[] }
export const fileKinds = ['orders', 'customers', 'items', 'tax codes', 'payments', 'open items'] as const
export type FileKind = (typeof fileKinds)[number]

const field = (key: string, label: string, names: string, required = false, type: FieldType = 'text'): Field => ({
	key,
	label,
	type,
	required,
	names: [label, ...names.split(',')].map(plainName),
})

/** A column's name with nothing but its letters and digits, in lower case. */
export function plainName(name: string): string {
	return name
		.normalize('NFKD')
		.toLowerCase()
		.replace(/[^\p{L}\p{N}%]/gu, '')
}

const deliveryFields = [
	field('delivery1', 'Deliver to', 'delivery name,delivery address,ship to,ship to name'),
	...[2, 3, 4, 5, 6].map((line) =>
		field(`delivery${line}`, `Delivery address ${line}`, `ship to ${line},ship to address ${line}`),
	),
]
/** The address that a row gives to deliver to, a line each. */
export const deliveryOf = (get: (key: string) => string): string =>
	[1, 2, 3, 4, 5, 6]
		.map((line) => get(`delivery${line}`))
		.filter(Boolean)
		.join('\n')

/** Whose own fields a file of a kind can fill. */
const owners: Partial<Record<FileKind, readonly OwnOf[]>> = {
	orders: ['order', 'line'],
	customers: ['customer'],
	items: ['item'],
}
/** The key of an own field's column. */
export const ownColumn = ({ of, key }: Pick<OwnField, 'of' | 'key'>): string => `own ${of} ${key}`

/** Every field of a kind, those of the firm's own among them; pictures come in by files of their own. */
export const fieldsFor = (kind: FileKind, own: readonly OwnField[]): Field[] => [
	...fieldsOf[kind],
	...own
		.filter(({ of, type }) => owners[kind]?.includes(of) && type !== 'picture')
		.map((one) =>
			field(
				ownColumn(one),
				one.name,
				'',
				false,
				one.type === 'day' ? 'day' : one.type === 'number' ? 'decimal' : 'text',
			),
		),
]

const fieldsOf: Record<FileKind, Field[]> = {
	orders: [
		field('order', 'Order number', 'order no,order,order ref,so number,sales order,order id', true),
		field('day', 'Order date', 'date,ordered,ordered on,date of order', true, 'day'),
		field('customer', 'Customer number', 'customer no,cust no,account,account no,customer code,customer id,cust', true),
		field('purchaseOrder', 'Purchase order', 'po,po ref,po number,their order,customer ref,your ref,purchase order no'),
		field('currency', 'Currency', 'curr,ccy'),
		field('item', 'Item', 'item code,item no,product,product code,sku,article,part no'),
		field('description', 'Description', 'item description,text,details,product name'),
		field('quantity', 'Quantity', 'qty,units ordered,number of units', true, 'decimal'),
		field('unit', 'Unit', 'uom,unit of measure'),
		field('unitPrice', 'Unit price', 'price,price each,net price,rate', true, 'decimal'),
		field('pricePer', 'Price per', 'per,price unit', false, 'decimal'),
		field('lineDiscount', 'Line discount %', 'disc %,discount %,line disc %,disc,discount', false, 'decimal'),
		field('taxCode', 'Tax code', 'vat code,vat,tax,tax rate code'),
		field('orderDiscount', 'Order discount %', 'order disc %,document discount %,total discount %', false, 'decimal'),
		field('discountName', 'Discount name', 'promotion,offer,discount scheme'),
		field('freight', 'Freight', 'carriage,delivery charge,shipping', false, 'decimal'),
		field('freightPercent', 'Freight %', 'carriage %,shipping %', false, 'decimal'),
		field('note', 'Note', 'order note,remark,comment'),
		...deliveryFields,
	],
	customers: [
		field('number', 'Customer number', 'customer no,cust no,account,account no,number,code', true),
		field('name', 'Customer', 'name,customer name', true),
		field('address1', 'Address 1', 'address,address line 1,street'),
		field('address2', 'Address 2', 'address line 2'),
		field('address3', 'Address 3', 'address line 3'),
		field('address4', 'Address 4', 'address line 4,town,city'),
		field('address5', 'Address 5', 'address line 5,region,county'),
		field('address6', 'Address 6', 'address line 6,postcode,postal code'),
		field('country', 'Country', 'country code'),
		field('email', 'Email', 'e-mail,mail,invoice email'),
		field('contact', 'Contact', 'contact name,attention'),
		field('currency', 'Currency', 'curr,ccy'),
		field('locale', 'Locale', 'language'),
		field('terms', 'Terms', 'payment terms'),
		field('tax', 'Tax treatment', 'tax status,vat status'),
		field('taxNumber', 'Tax number', 'vat number,vat no'),
		field('grouping', 'Invoices', 'grouping,invoice per,billing'),
		field('creditLimit', 'Credit limit', 'limit', false, 'decimal'),
		field('discount', 'Standing discount %', 'customer discount %,standing discount,discount %', false, 'decimal'),
		field('statementEmail', 'Email for statements', 'statement email,accounts email'),
		field('cc', 'Copy to', 'cc,email copy'),
		field('statements', 'Gets statements', 'statements'),
		field('wantsOrder', 'Wants purchase order', 'po required,order number required'),
		...deliveryFields,
	],
	items: [
		field('code', 'Item', 'item code,code,sku,product code', true),
		field('description', 'Description', 'name,text', true),
		field('unit', 'Unit', 'uom'),
		field('unitPrice', 'Unit price', 'price', true, 'decimal'),
		field('pricePer', 'Price per', 'per', false, 'decimal'),
		field('currency', 'Currency', 'curr,ccy'),
		field('taxCode', 'Tax code', 'vat code,vat', true),
	],
	'tax codes': [
		field('code', 'Tax code', 'code,vat code', true),
		field('name', 'Name', 'description,text', true),
		field('rate', 'Rate %', 'rate,percent,%', true, 'decimal'),
		field('from', 'From', 'valid from,from date,since', false, 'day'),
	],
	payments: [
		field('day', 'Date', 'paid on,payment date,received,value date,day', true, 'day'),
		field('customer', 'Customer number', 'customer no,cust no,account,account no,customer code,customer', true),
		field('amount', 'Amount', 'paid,payment,received amount,credit', true, 'decimal'),
		field('currency', 'Currency', 'curr,ccy'),
		field('reference', 'Reference', 'ref,payment ref,details,remittance,narrative', true),
	],
	'open items': [
		field('customer', 'Customer number', 'customer no,cust no,account,account no,customer code', true),
		field('number', 'Document number', 'document no,doc no,document,invoice no,reference', true),
		field('kind', 'Kind', 'type,document type,doc type', true),
		field('day', 'Document date', 'date,doc date,invoice date', true, 'day'),
		field('due', 'Due date', 'due,due on', true, 'day'),
		field('amount', 'Amount', 'original amount,document amount,total', true, 'decimal'),
		field('open', 'Open amount', 'open,outstanding,balance,remaining', true, 'decimal'),
		field('currency', 'Currency', 'curr,ccy'),
		field('theirOrder', 'Their order', 'purchase order,po,po ref,customer ref,order no'),
	],
}

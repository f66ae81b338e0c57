/**
 * Plain texts of a customer that papers may print, beside name, number and address: each has a column of its name in the books, a column of
 * files that bring customers or rows for papers, a field of layouts, an input in the form, and stands frozen on each paper.
 */
type CustomerText = {
	key: string
	/** As lists and forms call it. */
	name: string
	/** Heads of columns that hold it, as files write them. */
	columns: string
	/** What stands before it on a form that the firm has. */
	onForms: string
}

export const customerTexts = [
	{
		key: 'contact',
		name: 'Contact',
		columns: 'contact name,attention,ansprechpartner,kontakt,contacto,contactpersoon',
		onForms: 'attn,att,z hd,zu händen,à l’attention de,a la atención de,t a v,ter attentie van,v/',
	},
] as const satisfies readonly CustomerText[]

export type CustomerTextKey = (typeof customerTexts)[number]['key']

/** Something for each of the texts, by its key. */
export const ofTexts = <Value>(of: (key: CustomerTextKey) => Value): Record<CustomerTextKey, Value> =>
	Object.fromEntries(customerTexts.map(({ key }) => [key, of(key)])) as Record<CustomerTextKey, Value>

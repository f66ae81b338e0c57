import type { Finding } from './finding'

/** A customer who gets locked PDFs, and no password to lock them with: their message could not leave. */
export function lockMissing({ customer }: { customer: { lockFault: string } }): Finding[] {
	return customer.lockFault === ''
		? []
		: [{ code: 'lock', level: 'stop', brief: 'no password to lock it', text: customer.lockFault }]
}

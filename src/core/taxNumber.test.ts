import { readFileSync } from 'node:fs'
import { expect, test } from 'vitest'
import { taxNumberFault } from './taxNumber'

/** A right number of each country, its country as an address has it. */
const right: [number: string, country: string][] = [
	['ATU12345005', 'Österreich'],
	['BE0123456749', 'Belgique'],
	['BG123456786', 'Bulgaria'],
	['CHE-123.456.788 MWST', 'Schweiz'],
	['CY10234560L', 'Cyprus'],
	['CZ12345679', 'Czech Republic'],
	['DE123456788', 'Deutschland'],
	['DK12345607', 'Danmark'],
	['EE101234568', 'Estonia'],
	['ESB12345674', 'España'],
	['FI12345671', 'Suomi'],
	['FR11123456782', 'France'],
	['GB123456727', 'United Kingdom'],
	['EL012345670', 'Greece'],
	['HR12345678903', 'Croatia'],
	['HU12345676', 'Hungary'],
	['IE1234567T', 'Ireland'],
	['IT01234560041', 'Italia'],
	['LT123456010', 'Lithuania'],
	['LU12345613', 'Luxembourg'],
	['LV40001234561', 'Latvia'],
	['MT12345634', 'Malta'],
	['NL123456782B01', 'The Netherlands'],
	['NO987654325MVA', 'Norge'],
	['PL1234567802', 'Polska'],
	['PT512345678', 'Portugal'],
	['RO12345674', 'Romania'],
	['SE556123456701', 'Sverige'],
	['SI12345679', 'Slovenia'],
	['SK2021234501', 'Slovakia'],
]

test.each(right)(
	'%s is a number of %s; with a digit changed, or without its letters, it is known for what it is',
	(number, country) => {
		expect(taxNumberFault(number, country)).toBe('')
		expect(taxNumberFault(number.toLowerCase().replace(/(\d{3})/, '$1 '), country)).toBe('')
		expect(taxNumberFault(number, '')).toBe('')
		// Without its letters it is read by the country of its customer.
		const letters = /^(CHE|[A-Z]{2})-?/.exec(number)?.[0] ?? ''
		expect(taxNumberFault(number.slice(letters.length), country)).toBe('')
		const place = number.search(/\d/) + 2
		const digit = (Number(number.replace(/\D/g, '')[2]) + 1) % 10
		const wrong = number.replace(/\d/g, (own, at) => (at === place ? String(digit) : own))
		expect(taxNumberFault(wrong, country)).not.toBe('')
		expect(taxNumberFault(`${number}99999`, country)).not.toBe('')
		const other = country === 'France' ? 'Deutschland' : 'France'
		expect(taxNumberFault(number, other)).toContain(`they are in ${other}`)
	},
)

test('what nothing is known of is not doubted, and Northern Ireland and Norway without MVA are as right', () => {
	expect(taxNumberFault('12-3456789', 'United States')).toBe('')
	expect(taxNumberFault('12-3456789', '')).toBe('')
	expect(taxNumberFault('XI123456727', 'Northern Ireland')).toBe('')
	expect(taxNumberFault('XI123456727', 'United Kingdom')).toBe('')
	expect(taxNumberFault('NO 987 654 326', 'Norge')).not.toBe('')
	expect(taxNumberFault('none yet', 'France')).toContain('not of the form of a number of France such as FR')
})

test('customers of the demo firm who are billed by reverse charge have right numbers', () => {
	const rows = readFileSync('demo/customers.csv', 'utf8')
		.split('\n')
		.filter((row) => row.includes(',reverse charge,'))
	expect(rows.length).toBeGreaterThan(3)
	for (const row of rows) {
		const cells = row.split(',')
		expect(taxNumberFault(cells[15] ?? '', cells[8] ?? '')).toBe('')
	}
})

/** A document number: prefix and value, padded with zeros to `digits`. */
export const registerNumber = (register: { prefix: string; digits: number }, value: number): string =>
	register.prefix + String(value).padStart(register.digits, '0')

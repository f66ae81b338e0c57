// Makes the demo firm's files from a fixed seed: node scripts/make-demo.mjs. The files are committed; the same seed gives the same files.
import { writeFileSync } from 'node:fs'

let seed = 20261031
/** Mulberry32: small, and the same everywhere. */
function random() {
	seed = (seed + 0x6d2b79f5) | 0
	let t = Math.imul(seed ^ (seed >>> 15), 1 | seed)
	t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
	return ((t ^ (t >>> 14)) >>> 0) / 4294967296
}
const pick = (list) => list[Math.floor(random() * list.length)]
const between = (from, to) => from + Math.floor(random() * (to - from + 1))
const chance = (share) => random() < share
const quote = (cell) => (/[",\n]/.test(String(cell)) ? `"${String(cell).replaceAll('"', '""')}"` : String(cell))
const csv = (rows) => `${rows.map((row) => row.map(quote).join(',')).join('\r\n')}\r\n`
const money = (minor, digits = 2) => (minor / 10 ** digits).toFixed(digits).replace(/\B(?=(\d{3})+(?!\d))/g, ',')

// code, description, unit, price in pennies, price per, tax code, usual quantities
const items = [
	['ROPE-12', 'Polypropylene mooring line 12 mm', 'm', 145, 1, 'STD', [20, 120]],
	['ROPE-16', 'Polypropylene mooring line 16 mm', 'm', 210, 1, 'STD', [20, 120]],
	['ROPE-24', 'Polypropylene mooring line 24 mm', 'm', 385, 1, 'STD', [20, 100]],
	['ROPE-32', 'Polyester mooring line 32 mm, eight strand', 'm', 890, 1, 'STD', [15, 80]],
	['ROPE-N18', 'Nylon anchor line 18 mm, leaded', 'm', 465, 1, 'STD', [20, 60]],
	['TWINE-3', 'Whipping twine, waxed, 3 mm', 'reel', 640, 1, 'STD', [1, 6]],
	['SHK-B10', 'Galvanised bow shackle 10 mm', 'each', 310, 1, 'STD', [4, 40]],
	['SHK-B16', 'Galvanised bow shackle 16 mm', 'each', 620, 1, 'STD', [4, 24]],
	['SHK-B22', 'Galvanised bow shackle 22 mm, safety pin', 'each', 1480, 1, 'STD', [2, 12]],
	['SHK-D12', 'Stainless D shackle 12 mm', 'each', 1125, 1, 'STD', [2, 20]],
	['SWV-16', 'Forged swivel 16 mm, eye and jaw', 'each', 2890, 1, 'STD', [1, 6]],
	['SWV-25', 'Forged swivel 25 mm, eye and eye', 'each', 6475, 1, 'STD', [1, 4]],
	['CHN-8', 'Mark anchor chain 8 mm, short link', 'm', 440, 1, 'STD', [10, 60]],
	['CHN-13', 'Ground chain 13 mm, galvanised', 'm', 985, 1, 'STD', [10, 80]],
	['CHN-19', 'Ground chain 19 mm, self colour', 'm', 1640, 1, 'STD', [10, 60]],
	['CHN-26', 'Stud link chain 26 mm', 'm', 3270, 1, 'STD', [10, 40]],
	['ANC-40', 'Mushroom anchor 40 kg', 'each', 18900, 1, 'STD', [1, 4]],
	['ANC-90', 'Mushroom anchor 90 kg', 'each', 38400, 1, 'STD', [1, 2]],
	['SNK-500', 'Concrete sinker 500 kg with lifting eye', 'each', 24500, 1, 'STD', [1, 4]],
	['SNK-1200', 'Concrete sinker 1,200 kg with lifting eye', 'each', 46800, 1, 'STD', [1, 2]],
	['BUOY-40', 'Pick-up buoy 40 cm, white', 'each', 3640, 1, 'STD', [1, 10]],
	['BUOY-60', 'Mooring buoy 60 cm, through rod, orange', 'each', 11250, 1, 'STD', [1, 6]],
	['BUOY-90', 'Mooring buoy 90 cm, through rod, yellow', 'each', 24800, 1, 'STD', [1, 4]],
	['BUOY-L2', 'Lateral mark buoy 1.5 m, steel, port hand', 'each', 189000, 1, 'STD', [1, 1]],
	['MARK-12', 'Racing mark, 1.2 m orange', 'each', 8850, 1, 'STD', [1, 4]],
	['MARK-15', 'Racing mark, 1.5 m yellow, numbered', 'each', 10900, 1, 'STD', [1, 4]],
	['FLOAT-M', 'Mussel line float 160 l, black', 'each', 4275, 1, 'ZERO', [6, 60]],
	['PEG-M', 'Mussel rope pegs', 'each', 1285, 100, 'ZERO', [200, 1500]],
	['SOCK-M', 'Mussel socking, cotton, 40 mm', 'm', 3160, 100, 'ZERO', [250, 2000]],
	['LINE-L', 'Longline header 28 mm, recycled', 'm', 515, 1, 'ZERO', [50, 220]],
	['LT-SOL1', 'Solar mark light, 1 nm, red', 'each', 13250, 1, 'STD', [1, 4]],
	['LT-SOL3', 'Solar mark light, 3 nm, white, programmable', 'each', 31900, 1, 'STD', [1, 3]],
	['LT-BAT', 'Buoy lantern battery pack 12 V', 'each', 7690, 1, 'STD', [1, 4]],
	['LT-LENS', 'Lantern lens, 155 mm, green', 'each', 4820, 1, 'STD', [1, 3]],
	['RAD-R', 'Radar reflector, octahedral', 'each', 3975, 1, 'STD', [1, 4]],
	['FND-A4', 'Fender 86 cm, navy', 'each', 5460, 1, 'STD', [2, 10]],
	['FND-W', 'Dock wheel fender', 'each', 28700, 1, 'STD', [1, 2]],
	['LDR-3', 'Quay ladder, 3 m, stainless', 'each', 41250, 1, 'STD', [1, 2]],
	['BOL-5', 'Cast bollard, 5 t', 'each', 22900, 1, 'STD', [1, 3]],
	['CLT-10', 'Mooring cleat 10 in, galvanised', 'each', 1995, 1, 'STD', [2, 12]],
	['RNG-M', 'Mooring ring with eyebolt M20', 'each', 1740, 1, 'STD', [2, 10]],
	['THM-16', 'Thimble 16 mm, galvanised', 'each', 185, 1, 'STD', [4, 40]],
	['RIV-5', 'Stainless rivets 5 mm', 'each', 485, 100, 'STD', [100, 600]],
	['CTY-300', 'Cable ties 300 mm, UV black', 'each', 690, 100, 'STD', [100, 500]],
	['ANT-Z', 'Zinc anode 2.5 kg', 'each', 1830, 1, 'STD', [2, 16]],
	['PNT-AF', 'Antifouling paint, red, 2.5 l', 'tin', 8460, 1, 'STD', [1, 6]],
	['LJ-150', 'Lifejacket 150 N, crew', 'each', 9450, 1, 'ZERO', [1, 8]],
	['LB-H', 'Lifebuoy, horseshoe, with light', 'each', 8320, 1, 'STD', [1, 4]],
	['CHT-OB', 'Chart, Outer Banks and approaches, paper', 'each', 2950, 1, 'ZERO', [1, 4]],
	['ALM-27', 'Tide tables 2027, Port Skerrow', 'each', 1175, 1, 'ZERO', [1, 12]],
	['SRV-LIFT', 'Mooring lifted and inspected', 'each', 18500, 1, 'STD', [1, 6]],
	['SRV-DIVE', 'Diver with tender', 'hour', 9500, 1, 'STD', [1, 8]],
	['SRV-BOAT', 'Workboat with skipper', 'hour', 14200, 1, 'STD', [1, 9]],
	['SRV-SPL', 'Splice, eye, up to 24 mm', 'each', 1450, 1, 'STD', [2, 14]],
	['SRV-TEST', 'Proof load test with certificate', 'each', 6250, 1, 'STD', [1, 6]],
	['SRV-HEAT', 'Heat pump service, harbour office', 'each', 21400, 1, 'RED', [1, 1]],
	['INS-SOL', 'Solar panel, lantern roof, installed', 'each', 36500, 1, 'RED', [1, 2]],
	['HIRE-WB', 'Work barge hire', 'day', 38500, 1, 'STD', [1, 5]],
]

const home = 'United Kingdom'
// number, name, address lines, country, email, currency, locale, terms, tax treatment, tax number, invoices, credit limit, size of orders
const c = (number, name, address, more = {}) => ({
	number,
	name,
	address: address.split('|'),
	country: home,
	email: `accounts@${number.replace(/\d+$/, '').toLowerCase()}.example`,
	currency: 'GBP',
	locale: 'en-GB',
	terms: '30 days',
	tax: 'standard',
	taxNumber: '',
	invoices: 'order',
	limit: '',
	contact: '',
	size: 1,
	...more,
})
const norway = { country: 'Norway', currency: 'NOK', locale: 'nb-NO', tax: 'exempt' }
const ireland = { country: 'Ireland', currency: 'EUR', locale: 'en-IE', tax: 'reverse charge' }
const customers = [
	c('ARDL01', 'Ardlow Ferries', 'Ferry Terminal|Ardlow AR2 6TT', { invoices: 'all', limit: '15000.00', size: 2 }),
	c('BRAC01', 'Brack Point Sailing School', 'The Boathouse, Brack Point|Port Skerrow PS4 2GT'),
	c('CALD01', 'Calder Mussel Growers', 'Shore Road|Calder|CL1 8RR', { terms: '30 days from end of month' }),
	c('DUNM01', 'Dunmarrow Harbour Trust', 'Harbour Office|1 Quay Street|Dunmarrow DM1 1AA', {
		invoices: 'purchase order',
		size: 2,
	}),
	c('EAST01', 'Eastness Pilots', 'Pilot Station|Eastness EN3 9PL', { invoices: 'all' }),
	c('FENN01', 'Fennick Boatyard', 'Slipway Lane|Fennick FK2 4BY'),
	c('GULL01', 'Gullane Rock Lights', 'Light Station|Gullane Rock|GR1 1LL'),
	c('HOLM01', 'Holm Sound Dredging', 'Dredger Wharf|Holm Sound HS5 5DD', {
		invoices: 'all',
		limit: '6000.00',
		size: 3,
	}),
	c('INVE01', 'Inver Regatta Club', 'Club House, The Strand|Inver IV8 3RC'),
	c('KELD01', 'Kelda Fish Landing', 'Landing Shed 4|Kelda KD1 7FL', { email: '' }),
	c('LUNN01', 'Lunna Tug and Tow', 'Tug Berth|Lunna LN6 2TT'),
	c('MORK01', 'Mørkvik Havneservice', 'Kai 3|9780 Mørkvik', { ...norway, contact: 'Åse Brønn' }),
	c('NESS01', 'Nessgate Marina', 'Pontoon Office|Nessgate NG2 2MA', { limit: '9000.00' }),
	c('ORKA01', 'Orka Salmon Cages', 'Feed Barge Road|Orka OK9 1SC', { size: 2 }),
	c('PENT01', 'Pentrow Lifeboat Society', 'Lifeboat House|Pentrow PW1 1LS', {
		tax: 'exempt',
		taxNumber: 'Charity 990417',
	}),
	c('QUAR01', 'Quarrie Stone Quay', 'Old Quarry|Quarrie QR3 8SQ'),
	c('RANS01', 'Ransay Island Council', 'Council Offices|The Square|Harbour Town|Isle of Ransay|Outer Isles|RY1 1IC', {
		invoices: 'purchase order',
		terms: '45 days',
	}),
	c('SAND01', 'Sandvoe Shellfish', 'The Voe|Sandvoe SV4 4SF'),
	c('TARB01', 'Tarbrae Yacht Haven', 'Haven Master|Tarbrae TB2 1YH', { terms: 'Day 15 of next month' }),
	c('ULLA01', 'Ullaness Ferry Pier', 'Pier Head|Ullaness UN1 9FP'),
	c('VATE01', 'Vatern Boat Hire', 'Loch Side|Vatern VT7 3BH', { terms: 'On receipt' }),
	c('WICK01', 'Wickrow Diving', 'Unit 2, Slip Estate|Wickrow WR5 6DV'),
	c('YELL01', 'Yellowholm Oysters', 'Tidal Park|Yellowholm YH2 2OY'),
	c('ZETT01', 'Zettland Wind Support', 'Energy Base|Zettland ZT1 4WS', { size: 3, limit: '40000.00' }),
	c('ASKE01', 'Askerry Cruising Association', 'PO Box 12|Askerry AK1 2CA'),
	c('BALT01', 'Baltray Sea Angling', 'The Slip|Baltray BY6 6SA'),
	c('CROM01', 'Cromlin Port Authority', 'Port House|Cromlin CM1 1PA', {
		invoices: 'purchase order',
		size: 3,
		limit: '60000.00',
	}),
	c('DELT01', 'Delting Kelp Company', 'Kelp Works|Delting DT3 3KC'),
	c('EIDE01', 'Eidesund Fjordcharter', 'Brygga 11|5440 Eidesund', norway),
	c('FARR01', 'Farrowness Coastguard Station', 'Station Road|Farrowness FW2 9CG', { terms: '45 days' }),
	c('GANN01', 'Gannet Rib Tours', 'Quay Kiosk|Gannet Bay GB4 1RT'),
	c('HESK01', 'Heskill Sea Cadets', 'Drill Hall|Heskill HK5 2SC', { tax: 'exempt', taxNumber: 'Charity 771203' }),
	c('ISLA01', 'Islander Barge Company', 'Barge Yard|Port Skerrow PS2 8IB', { size: 2 }),
	c('JARL01', "Jarl's Hythe Moorings", "Harbour View|Jarl's Hythe JH1 6MO", { invoices: 'all' }),
	c('KIRK01', 'Kirkwater Canal Trust', 'Lock Cottage|Kirkwater KW7 7CT'),
	c('LERW01', 'Lerwin Net Loft', 'Net Loft|Lerwin LW3 1NL'),
	c('MURR01', 'Murrayfirth Dinghy Park', 'Dinghy Park|Murrayfirth MF1 5DP'),
	c('NORT01', 'Norther Buoyage Board', 'Board House|Cromlin CM1 4BB', {
		invoices: 'purchase order',
		size: 4,
		limit: '80000.00',
	}),
	c('OTTE01', 'Otterswick Boatbuilders', 'The Sheds|Otterswick OW2 7BB'),
	c('PORT01', 'Porteous & Daughters, Riggers', 'Loft 3, Rope Walk|Port Skerrow PS1 5PD'),
	c('QUEN01', 'Quendale Holiday Moorings', 'Caravan Site|Quendale QD9 9HM'),
	c('RONA01', 'Ronas Salvage', 'Salvage Yard|Ronas RN4 8SY', { size: 2 }),
	c('STRO01', 'Stromfirth Rowing Club', 'Boat Shed|Stromfirth SF2 3RC'),
	c('TORR01', 'Torran Estuary Trust', 'Estuary Centre|Torran TN1 1ET', { tax: 'exempt', taxNumber: 'Charity 660318' }),
	c('UNST01', 'Unstane Ferries', 'Linkspan|Unstane US3 3UF', { size: 2, invoices: 'all' }),
	c('VEEN01', 'Veenskar Offshore', 'Havnegata 2|6009 Veenskar', { ...norway, size: 3 }),
	c('WHAL01', 'Whalsetter Fishermen', 'Fishmarket|Whalsetter WS1 2FM'),
	c('YARL01', 'Yarlside Harbour Cafe and Chandlery', 'Front Street|Yarlside YS6 1HC'),
	c('ABER01', 'Aberlusk Rescue Boats', 'Slip 1|Aberlusk AL8 8RB'),
	c('BURR01', 'Burravoe Workboats', 'Burra Pier|Burravoe BV2 2WB', { size: 2 }),
	c('CLON01', 'Clonadell Marine', 'Strand Road|Clonadell|Co. Carrow', { ...ireland, taxNumber: 'IE 0000017X' }),
	c('DROM01', 'Dromskerry Boatyard', 'Pier 2|Dromskerry|Co. Carrow', { ...ireland, taxNumber: 'IE 0000024P' }),
	c('ELSH01', 'Elshaven Werft', 'Hafenstraße 8|25999 Elshaven', {
		country: 'Germany',
		currency: 'EUR',
		locale: 'de-DE',
		tax: 'reverse charge',
		taxNumber: 'DE 000000173',
	}),
	c('FLAM01', 'Flamandec Voiles', '4 quai des Goélands|29999 Port-Flamandec', {
		country: 'France',
		currency: 'EUR',
		locale: 'fr-FR',
		tax: 'reverse charge',
		taxNumber: 'FR 00 000000299',
	}),
	c('GDAL01', 'Gdalów Port Łódź Sp.', 'ul. Żeglarska 5|80-999 Gdalów', {
		country: 'Poland',
		currency: 'EUR',
		locale: 'pl-PL',
		tax: 'reverse charge',
		taxNumber: 'PL 0000000311',
	}),
	c('HAMN01', 'Hamnøy Sjøtjenester', 'Sjøgata 40|8399 Hamnøy', norway),
	c('YAMA01', '山本 Marine Instruments', '2-1 Minatomachi|Kaigan-shi 999-0001', {
		country: 'Japan',
		currency: 'JPY',
		locale: 'en-GB',
		tax: 'exempt',
	}),
	c('KAIG01', 'Kaigan Pilot Boats', '7-4 Hatoba|Kaigan-shi 999-0014', {
		country: 'Japan',
		currency: 'JPY',
		locale: 'en-GB',
		tax: 'exempt',
	}),
	c('MIDY01', 'Midyell Pier Users', 'c/o The Hall|Midyell MY1 1PU', { email: '' }),
	c('NOSS01', 'Nosshead Lighthouse Tours', 'Nosshead|NH2 1LT'),
	c('OLNA01', 'Olnafirth Fish Farm Services', 'Shore Base|Olnafirth OF3 7FS', { terms: '60 days', size: 2 }),
	c('PAPA01', 'Papa Sound Kayaks', 'The Noust|Papa Sound PP5 5KY'),
	c('REAW01', 'Reawick Moorings Co-operative', 'Moorings Hut|Reawick RK2 8MC', { invoices: 'all' }),
	c('SUMB01', 'Sumbrough Air and Sea', 'Old Hangar|Sumbrough SB1 3AS', { terms: '14 days' }),
]

// Prices in other currencies: pounds times a list factor, whole kroner and yen.
const listPrice = (pennies, currency) =>
	currency === 'EUR'
		? Math.round(pennies * 1.18)
		: currency === 'NOK'
			? Math.round(pennies * 0.135) * 100
			: currency === 'JPY'
				? Math.round(pennies * 1.92)
				: pennies
const decimals = (currency) => (currency === 'JPY' ? 0 : 2)
const head = [
	'Order No',
	'Order date',
	'Cust. No',
	'Customer',
	'PO ref',
	'Curr',
	'Line',
	'Item',
	'Description',
	'Qty',
	'Unit',
	'Unit price',
	'Per',
	'Disc %',
	'VAT code',
	'Order disc %',
	'Freight',
	'Entered by',
]

let orderNumber = 7390
function order(customer, day, count, currency = customer.currency) {
	orderNumber += chance(0.12) ? 2 : 1
	const lines = []
	for (let line = 0; line < count; line++) {
		const [code, description, unit, pennies, per, taxCode, [low, high]] = pick(items)
		const fraction = unit === 'hour' && chance(0.4) ? pick(['.5', '.25', '.75']) : ''
		const quantity = `${Math.max(1, Math.round(between(low, high) * Math.min(1, 0.35 + customer.size * 0.2)))}${fraction}`
		lines.push({
			code,
			description,
			unit,
			price: listPrice(pennies, currency),
			per,
			taxCode: customer.tax === 'standard' ? taxCode : 'ZERO',
			quantity,
			discount: chance(0.12) ? pick(['5', '10', '12.5', '15']) : '',
		})
	}
	return {
		number: String(orderNumber),
		day,
		customer,
		currency,
		lines,
		po:
			customer.invoices === 'purchase order'
				? `${customer.number.slice(0, 2)}/${between(26, 27)}/${between(100, 999)}`
				: chance(0.3)
					? `PO-${between(1000, 9999)}`
					: '',
		by: pick(['wren', 'wren', 'tam', 'counter']),
		discount: chance(0.06) ? pick(['2.5', '5', '10']) : '',
		freight: chance(0.35) ? money(listPrice(pick([650, 1250, 1850, 3400]), currency), decimals(currency)) : '',
	}
}

const rowsOf = ({ number, day, customer, currency, lines, po, discount, freight, by }) =>
	lines.map((line, index) => [
		number,
		day.split('-').reverse().join('/'),
		customer.number,
		customer.name,
		po,
		currency,
		index + 1,
		line.code,
		line.description,
		line.quantity,
		line.unit,
		line.price === '' ? '' : money(line.price, decimals(currency)),
		line.per,
		line.discount,
		line.taxCode,
		discount,
		freight,
		by,
	])

const lineCount = () => between(2, 7)
const dayIn = (month, last) => `${month}-${String(between(1, last)).padStart(2, '0')}`
const months = Array.from({ length: 17 }, (_, index) =>
	new Date(Date.UTC(2025, 4 + index, 1)).toISOString().slice(0, 7),
)
for (const month of months) {
	const last = new Date(Date.UTC(Number(month.slice(0, 4)), Number(month.slice(5)), 0)).getUTCDate()
	const orders = []
	// A few customers buy for the first time in October; the one whose name cannot be printed was billed by hand until now.
	for (const customer of customers) {
		if (['YAMA01', 'GULL01', 'PAPA01'].includes(customer.number)) continue
		if (chance(0.62)) orders.push(order(customer, dayIn(month, last), lineCount()))
		if (chance(0.18 * customer.size)) orders.push(order(customer, dayIn(month, last), lineCount()))
	}
	orders.sort((a, b) => (a.day < b.day ? -1 : 1))
	writeFileSync(`demo/history/orders-${month}.csv`, csv([head, ...orders.flatMap(rowsOf)]))
}

const find = (number) => customers.find((customer) => customer.number === number)
const october = []
orderNumber = 8800
for (const customer of customers) {
	const count = customer.number === 'YAMA01' ? 1 : 1 + (chance(0.6) ? 1 : 0) + (customer.size > 1 ? between(1, 3) : 0)
	for (let index = 0; index < count; index++) october.push(order(customer, dayIn('2026-10', 31), between(2, 7)))
}
october.sort((a, b) => (a.day < b.day ? -1 : 1))
october.forEach((one, index) => {
	one.number = String(8801 + index + Math.floor(index / 9))
})
const next = () => String(Number(october.at(-1).number) + 1)
const add = (customer, day, count, currency) => {
	const made = { ...order(customer, day, count, currency), number: next() }
	october.push(made)
	return made
}
// Real life: the same order entered twice, a missing price, a long order, returns, a wrong currency, one far over its usual.
const twice = october.find(({ customer }) => customer.number === 'DUNM01')
october.push({ ...twice, number: next() })
october.find(({ customer }) => customer.number === 'FENN01').lines[1].price = ''
add(find('NORT01'), '2026-10-29', 40)
const withReturn = october.find(({ customer }) => customer.number === 'TARB01')
withReturn.lines.push({
	...withReturn.lines[0],
	quantity: `-${Math.max(1, Math.floor(Number(withReturn.lines[0].quantity) / 3))}`,
	description: `${withReturn.lines[0].description}, returned`,
})
const wholeReturn = add(find('LERW01'), '2026-10-30', 1)
wholeReturn.lines[0].quantity = `-${wholeReturn.lines[0].quantity}`
add(find('WICK01'), '2026-10-30', 3, 'EUR')
const school = add(find('BRAC01'), '2026-10-31', 2)
school.lines = [
	{
		code: 'BUOY-L2',
		description: 'Lateral mark buoy 1.5 m, steel, port hand',
		unit: 'each',
		price: 189000,
		per: 1,
		taxCode: 'STD',
		quantity: '2',
		discount: '15',
	},
	...school.lines,
]
// Slips of the keyboard, which the reading must refuse by row.
const slip = add(find('ASKE01'), '2026-10-31', 3)
slip.lines[1].quantity = '1O'
add({ ...find('DELT01'), number: 'DELT10' }, '2026-10-31', 2)
writeFileSync('demo/orders-2026-10.csv', csv([head, ...october.flatMap(rowsOf)]))

writeFileSync(
	'demo/items.csv',
	csv([
		['Item', 'Description', 'Unit', 'Unit price', 'Per', 'Currency', 'VAT code'],
		...items.map(([code, description, unit, pennies, per, tax]) => [
			code,
			description,
			unit,
			money(pennies),
			per,
			'GBP',
			tax,
		]),
	]),
)
writeFileSync(
	'demo/tax-codes.csv',
	csv([
		['Code', 'Name', 'Rate %', 'From'],
		['STD', 'VAT', '20', '2011-01-04'],
		['RED', 'VAT reduced', '5', '1997-09-01'],
		['ZERO', 'VAT zero', '0', '1973-04-01'],
	]),
)
const addressColumns = [1, 2, 3, 4, 5, 6]
writeFileSync(
	'demo/customers.csv',
	csv([
		[
			'Cust. No',
			'Customer',
			...addressColumns.map((line) => `Address ${line}`),
			'Country',
			'Email',
			'Contact',
			'Currency',
			'Locale',
			'Terms',
			'Tax treatment',
			'Tax number',
			'Invoices',
			'Credit limit',
		],
		...customers.map((one) => [
			one.number,
			one.name,
			...addressColumns.map((line) => one.address[line - 1] ?? ''),
			one.country,
			one.email,
			one.contact,
			one.currency,
			one.locale,
			one.terms,
			one.tax,
			one.taxNumber,
			one.invoices,
			one.limit,
		]),
	]),
)
console.log(
	`${customers.length} customers, ${items.length} items, ${october.length} orders with ${october.flatMap(({ lines }) => lines).length} lines in October`,
)

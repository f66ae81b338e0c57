/**
 * How many random walks a test makes: few each time, since every run of the tests walks others; as many as `HISTORIES` says where it is
 * set, so that `HISTORIES=1000 npx vitest run tests/histories.test.ts` walks a thousand.
 */
export const walks = (few: number): number => Number(process.env.HISTORIES ?? few)

let done = 0
/** Says how far long walks are. */
export function walked(): void {
	done++
	if (process.env.HISTORIES && done % 50 === 0) console.log(`${done} walked`)
}

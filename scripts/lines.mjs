// npm run -s lines: lines of code that are not blank or comment, how many of them are tests, and the share.
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { inRoot, root } from './setup.mjs'

const files = execFileSync('git', ['ls-files', '--cached', '--others', '--exclude-standard'], {
	cwd: root,
	encoding: 'utf8',
})
	.split('\n')
	.filter((name) => /\.(ts|tsx|mjs|sql|css)$/.test(name))
const isTest = (name) => name.startsWith('tests/') || /\.test\.tsx?$/.test(name)
const count = (name) => {
	let inComment = false
	return readFileSync(inRoot(name), 'utf8')
		.split('\n')
		.filter((line) => {
			const text = line.trim()
			if (inComment || text.startsWith('/*')) {
				inComment = !text.includes('*/')
				return false
			}
			return text !== '' && !text.startsWith('//') && !text.startsWith('--')
		}).length
}
const sum = (names) => names.reduce((total, name) => total + count(name), 0)
const tests = sum(files.filter(isTest))
const all = sum(files)
console.log(`${all} lines of code, ${tests} of them tests: ${((tests / all) * 100).toFixed(1)}%`)

import { setUp } from './setup.mjs'

await setUp()

import 'server-only'
import { join } from 'node:path'
import type Database from 'better-sqlite3'
import { openPracticePost } from '@/post/practiceMail'
import { dataFolder } from '@/store/openBooks'

const held = globalThis as typeof globalThis & { northTallyPractice?: Database.Database }

/** The practice server's post, opened once. */
export function practicePost(): Database.Database {
	held.northTallyPractice ??= openPracticePost(join(dataFolder(), 'practice-mail'))
	return held.northTallyPractice
}

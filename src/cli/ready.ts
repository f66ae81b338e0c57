import { lookIfSound, openBooks } from '@/store/openBooks'

// What a start asks before it begins anything: opens the books, makes them where there are none, and looks whether their database is sound.
// It stands by itself, since all that the command line can do takes longer to load than this takes.

try {
	const books = openBooks()
	lookIfSound(books)
	books.db.close()
} catch (error) {
	console.error(error instanceof Error ? error.message : String(error))
	process.exit(2)
}

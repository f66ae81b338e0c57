import { vi } from 'vitest'

// What of Next.js only its server has, as every test sees it: no cookies, no page to read anew, and ways out that say where they lead.

vi.mock('server-only', () => ({}))
vi.mock('next/server', () => ({ connection: async () => {} }))
vi.mock('next/headers', () => ({
	cookies: async () => ({ get: () => undefined, set: () => {} }),
	headers: async () => new Headers(),
}))
vi.mock('next/cache', () => ({ refresh: () => {}, revalidatePath: () => {} }))
vi.mock('next/navigation', () => {
	const left = (words: string) => () => {
		throw new Error(`went: ${words}`)
	}
	return {
		notFound: left('nowhere'),
		redirect: left('elsewhere'),
		useRouter: () => ({}),
		usePathname: () => '/',
		useSearchParams: () => new URLSearchParams(),
	}
})

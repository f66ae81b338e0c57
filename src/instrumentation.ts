/** Run once when the web starts. */
export async function register(): Promise<void> {
	if (process.env.NEXT_RUNTIME === 'nodejs') (await import('./app/starter')).endWithStarter()
}

/** Ends this process when the one that started it is gone, so that no port is held by an orphan. */
export function endWithStarter(): void {
	const starter = Number(process.env.NORTH_TALLY_STARTER ?? 0)
	if (starter === 0) return
	setInterval(() => {
		try {
			process.kill(starter, 0)
		} catch {
			process.exit(0)
		}
	}, 500).unref()
}

/** The code by which a process says that it cannot be as things are, so that its starter does not start it again (scripts/start.mjs names it). */
export const cannotBe = Number(process.env.NORTH_TALLY_CANNOT_BE ?? 1)

/** Open debits that are offered to choose from: the oldest due; any other is named by its number. */
export const mostOffered = 150

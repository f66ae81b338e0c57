const mailbox = /^[^\s@,;<>]+@[^\s@,;<>.]+(\.[^\s@,;<>.]+)+$/

/** Whether one address is well formed enough to be given to a mail server. */
export const isMailbox = (address: string): boolean => mailbox.test(address)

/** The addresses of a list with commas, semicolons or spaces between. */
export const addresses = (list: string): string[] => list.split(/[,;\s]+/).filter(Boolean)

/** Whether every address of a list is well formed; none at all is. */
export const areMailboxes = (list: string): boolean => addresses(list).every(isMailbox)

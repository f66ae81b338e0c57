/** Ways in which the letters of a text are written down. */
export const encodings = ['UTF-8', 'UTF-16LE', 'UTF-16BE', 'Windows-1252', 'Code page 850'] as const
export type Encoding = (typeof encodings)[number]

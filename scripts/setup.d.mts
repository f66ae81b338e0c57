export const root: string
export function browserOptions(): { executablePath: string; args: string[] }
export function bundle(): Promise<void>
export function bundleEntries(entryPoints: Record<string, string>): Promise<void>

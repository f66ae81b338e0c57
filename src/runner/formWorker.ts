import { type FormRead, readFormBytes } from '@/runs/forms/readForm'

/** The job of the thread that reads forms. */
export default function work({ name, bytes }: { name: string; bytes: Uint8Array }): Promise<FormRead> {
	return readFormBytes(name, Buffer.from(bytes))
}

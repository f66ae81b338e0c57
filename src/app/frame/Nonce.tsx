'use client'
import { getNonce, setNonce } from 'get-nonce'
import { config } from 'zod'

// Schemas are walked, not compiled: the page's policy lets nothing be made a program.
config({ jitless: true })

/**
 * Tells what puts styles into the page while it is used (dialogs that hold the scrolling) by what nonce this page lets them in: the one that
 * the page came with. What is read anew later comes with another, which the page does not know.
 */
export function Nonce({ value }: { value: string }) {
	if (typeof window !== 'undefined' && !getNonce()) setNonce(value)
	return null
}

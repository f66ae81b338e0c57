'use client'
import { useSyncExternalStore } from 'react'

const never = () => () => {}

/** Whether the page answers yet: until then what is typed or pressed would be lost, so that it rests. */
export const useAwake = (): boolean =>
	useSyncExternalStore(
		never,
		() => true,
		() => false,
	)

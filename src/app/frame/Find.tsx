'use client'
import { Command } from 'cmdk'
import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import { Ask } from '@/ui/Ask'
import { KeyHint } from '@/ui/KeyHint'
import type { Place } from '../api/find/route'

/** Finds a customer, a number or an order anywhere in the books. */
export function Find() {
	const [open, setOpen] = useState(false)
	const [words, setWords] = useState('')
	const [places, setPlaces] = useState<Place[]>([])
	const router = useRouter()
	useEffect(() => {
		const onKey = (event: KeyboardEvent) => {
			if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k') return
			event.preventDefault()
			setOpen(true)
		}
		document.addEventListener('keydown', onKey)
		return () => document.removeEventListener('keydown', onKey)
	}, [])
	useEffect(() => {
		if (words.trim() === '') return setPlaces([])
		const stop = new AbortController()
		fetch(`/api/find?q=${encodeURIComponent(words)}`, { signal: stop.signal })
			.then((answer) => answer.json())
			.then(setPlaces)
			.catch(() => {})
		return () => stop.abort()
	}, [words])
	const go = (place: Place) => {
		setOpen(false)
		setWords('')
		router.push(place.path)
	}
	return (
		<>
			<button
				type="button"
				onClick={() => setOpen(true)}
				className="flex w-[270px] items-center justify-between gap-3 rounded border border-rule bg-sheet px-3 py-1 text-mute hover:border-mute max-[1100px]:w-[180px]"
			>
				<span className="truncate">Find a customer, number, order</span>
				<span className="shrink-0">
					<KeyHint>Ctrl K</KeyHint>
				</span>
			</button>
			<Ask open={open} onClose={() => setOpen(false)} title="Find in the books">
				<Command shouldFilter={false} label="Find in the books">
					<Command.Input
						value={words}
						onValueChange={setWords}
						placeholder="Part of a name or a number"
						className="w-full rounded border border-rule bg-sheet px-2 py-1.5"
					/>
					<Command.List className="mt-2 max-h-80 overflow-auto">
						{words.trim() !== '' && (
							<Command.Empty className="px-2 py-2 text-mute">Nothing in the books holds “{words}”.</Command.Empty>
						)}
						{places.map((place) => (
							<Command.Item
								key={place.path + place.title}
								value={place.path + place.title}
								onSelect={() => go(place)}
								className="flex justify-between gap-4 rounded-sm px-2 py-1.5 aria-selected:bg-plum-wash"
							>
								<span className="font-semibold">{place.title}</span>
								<span className="truncate text-mute">{place.detail}</span>
							</Command.Item>
						))}
					</Command.List>
				</Command>
			</Ask>
		</>
	)
}

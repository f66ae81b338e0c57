import { posix } from 'node:path'
import { all, type Element, readTree } from '@/archive/tree'
import type { Archive } from '@/archive/zip'

/** Where a part of the package leads, by the ids that its text names (ISO/IEC 29500-2, 8). */
export type Relations = Map<string, { type: string; target: string; external: boolean }>

/**
 * What a part of the package points at, by id (ISO/IEC 29500-2, 9.3); nothing where it has no relations.
 * @throws a refusal (`refuse`) where the part is no XML
 */
export async function relationsOf(archive: Archive, part: string): Promise<Relations> {
	const name = posix.join(posix.dirname(part), '_rels', `${posix.basename(part)}.rels`)
	if (!archive.names.includes(name)) return new Map()
	const tree = await readTree(await archive.open(name), 'The form')
	return new Map(
		all(tree, 'Relationship').map(({ attributes }) => {
			const target = attributes.Target ?? ''
			const external = attributes.TargetMode === 'External'
			return [
				attributes.Id ?? '',
				{
					type: posix.basename(attributes.Type ?? ''),
					external,
					target: external
						? target
						: target.startsWith('/')
							? target.slice(1)
							: posix.normalize(posix.join(posix.dirname(part), target)),
				},
			]
		}),
	)
}

/** A part's XML; nothing where the package has none of that name. */
export const treeOf = async (archive: Archive, name: string | undefined): Promise<Element | undefined> =>
	name !== undefined && archive.names.includes(name) ? readTree(await archive.open(name), 'The form') : undefined

import NextLink from 'next/link'
import type { ComponentProps } from 'react'

/**
 * A way to another page, which is asked for when it is taken. Nothing is fetched before: a page of lists has hundreds of ways, and each of
 * them would be a reading of the books that nobody wanted.
 */
const Link = (props: Omit<ComponentProps<typeof NextLink>, 'prefetch'>) => <NextLink {...props} prefetch={false} />
export default Link

import Link from '@/ui/Link'
import { Empty, PageHead } from '@/ui/Page'

export default function NotFound() {
	return (
		<>
			<PageHead title="There is nothing here" />
			<Empty title="The books hold nothing under this address">
				<p>
					It may have been given back or left out meanwhile. Begin again at the{' '}
					<Link href="/" className="text-plum underline">
						Desk
					</Link>
					, or find it with Ctrl K.
				</p>
			</Empty>
		</>
	)
}

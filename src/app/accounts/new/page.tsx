import { readCompany } from '@/store/company'
import { PageHead } from '@/ui/Page'
import { books } from '../../books'
import { CustomerForm } from '../CustomerForm'

export default function NewCustomerPage() {
	return (
		<>
			<PageHead title="Add a customer" />
			<CustomerForm customer={null} home={readCompany(books())?.currency ?? ''} />
		</>
	)
}

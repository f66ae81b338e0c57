import { lockFields } from '@/runs/files/lock'
import { readCompany } from '@/store/company'
import { ownFieldsOf } from '@/store/ownFields'
import { PageHead } from '@/ui/Page'
import { reading } from '../../reading'
import { CustomerForm } from '../CustomerForm'

export default async function NewCustomerPage() {
	const { books } = await reading()
	return (
		<>
			<PageHead title="Add a customer" />
			<CustomerForm
				customer={null}
				home={readCompany(books)?.currency ?? ''}
				ownFields={ownFieldsOf(books, 'customer')}
				lockFields={lockFields(books)}
				hasPassword={false}
			/>
		</>
	)
}

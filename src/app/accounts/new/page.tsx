import { lockFields } from '@/runs/files/lock'
import { readCompany } from '@/store/company'
import { ownFieldsOf } from '@/store/ownFields'
import { PageHead } from '@/ui/Page'
import { reading } from '../../reading'
import { CustomerForm } from '../CustomerForm'

export default async function NewCustomerPage() {
	const { books: own } = await reading()
	return (
		<>
			<PageHead title="Add a customer" />
			<CustomerForm
				customer={null}
				home={readCompany(own)?.currency ?? ''}
				own={ownFieldsOf(own, 'customer')}
				lockFields={lockFields(own)}
				hasPassword={false}
			/>
		</>
	)
}

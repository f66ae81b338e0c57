import type { Metadata } from 'next'
import { ownFieldUses } from '@/runs/firm/ownFields'
import { readCompany } from '@/store/company'
import { readSettings } from '@/store/settings'
import { PageHead, Section } from '@/ui/Page'
import { reading } from '../reading'
import { CompanyForm, LogoForm, MailForm, WorkDateForm } from './Forms'
import { OwnFields } from './OwnFields'

export const metadata: Metadata = { title: 'Company' }

export default async function CompanyPage() {
	const { books } = await reading()
	const company = readCompany(books)
	const { mail, workDate } = readSettings(books)
	return (
		<>
			<PageHead title="Company" about="What stands on every document from here on; issued ones stay as they are" />
			<Section title="Particulars">
				<CompanyForm company={company} />
			</Section>
			{company && (
				<Section title="Logo">
					<LogoForm logo={company.logo_sha256} />
				</Section>
			)}
			<Section
				title="Fields of your own"
				aside="On customers, items, orders and lines; they come in with files, and papers can show them"
			>
				<OwnFields fields={ownFieldUses(books)} />
			</Section>
			<Section title="Work date" aside="The day that you work as of">
				<WorkDateForm workDate={workDate} />
			</Section>
			<div id="mail">
				<Section title="Mail" aside="How messages leave">
					<MailForm mail={{ ...mail, password: '' }} hasPassword={mail.password !== ''} />
				</Section>
			</div>
		</>
	)
}

'use client'
import { useState, useTransition } from 'react'
import { removeLogo, setCompany, setLogo, setMail, setWorkDate } from '@/app/acts/firm'
import { languageNames } from '@/layout/languages'
import type { Company } from '@/store/company'
import type { MailSettings } from '@/store/settings'
import { Button } from '@/ui/Button'
import { DayField } from '@/ui/DayField'
import { Choice, TextArea, TextField } from '@/ui/Field'
import { SavedForm } from '@/ui/SavedForm'

export function CompanyForm({ company }: { company: Company | null }) {
	return (
		<div className="max-w-3xl px-5 pb-5">
			<SavedForm save={setCompany} label="Save the company" saved="Saved. Documents from here on carry it.">
				<div className="grid grid-cols-2 gap-4">
					<TextField label="Name" name="name" defaultValue={company?.name} required />
					<TextField
						label="Home currency"
						name="currency"
						defaultValue={company?.currency ?? 'GBP'}
						required
						className="figures"
						maxLength={3}
					/>
					<TextArea label="Address, a line each" name="address" rows={4} defaultValue={company?.address} />
					<TextArea label="Bank details, as they are printed" name="bank" rows={4} defaultValue={company?.bank} />
					<TextField
						label="Country"
						name="country"
						defaultValue={company?.country}
						help="Every invoice bears name, address, country and tax number"
					/>
					<TextField label="Tax number" name="tax_number" defaultValue={company?.tax_number} />
					<TextField
						label="Email"
						name="email"
						type="email"
						defaultValue={company?.email}
						help="Messages come from here"
					/>
					<TextField label="Telephone" name="phone" defaultValue={company?.phone} />
				</div>
				<Choice
					label="Language of papers"
					name="language"
					defaultValue={company?.language ?? 'en'}
					options={Object.entries(languageNames)}
					help="Where a customer’s own language has no words"
				/>
				<TextField label="Words at the foot" name="closing_words" defaultValue={company?.closing_words} />
			</SavedForm>
		</div>
	)
}

export function LogoForm({ logo }: { logo: string | null }) {
	const [busy, start] = useTransition()
	return (
		<div className="flex max-w-3xl items-start gap-6 px-5 pb-5">
			{logo && (
				<img
					src={`/api/images/${logo}`}
					alt="The firm’s logo"
					className="max-h-16 max-w-48 border border-rule bg-white p-2"
				/>
			)}
			<SavedForm save={setLogo} label="Set the logo" saved="Set.">
				<TextField
					label="PNG, JPEG or SVG file"
					name="logo"
					type="file"
					accept="image/png,image/jpeg,image/svg+xml"
					required
					help="An SVG of plain shapes; text turned into paths"
				/>
			</SavedForm>
			{logo && (
				<Button disabled={busy} onClick={() => start(async () => void (await removeLogo()))}>
					Take it away
				</Button>
			)}
		</div>
	)
}

export function WorkDateForm({ workDate }: { workDate: string }) {
	return (
		<div className="max-w-60 px-5 pb-5">
			<SavedForm
				save={(form) => setWorkDate(String(form.get('workDate') ?? ''))}
				label="Set the work date"
				saved="Set."
			>
				<DayField label="Work as of" name="workDate" value={workDate} help="Empty: today" />
			</SavedForm>
		</div>
	)
}

export function MailForm({ mail, hasPassword }: { mail: MailSettings; hasPassword: boolean }) {
	const [mode, setMode] = useState(mail.mode)
	return (
		<div className="max-w-3xl px-5 pb-8">
			<SavedForm save={setMail} label="Save how mail leaves" saved="Saved.">
				<Choice
					label="Mail is"
					name="mode"
					value={mode}
					onChange={(event) => setMode(event.target.value === 'real' ? 'real' : 'practice')}
					options={[
						['practice', 'in practice: to the practice server on this machine'],
						['real', 'real: through your own mail server'],
					]}
				/>
				<div className="grid grid-cols-3 gap-4">
					<TextField label="Mail server" name="host" defaultValue={mail.host} placeholder="mail.yourfirm.example" />
					<TextField
						label="Port"
						name="port"
						type="number"
						defaultValue={mail.port}
						min={1}
						max={65535}
						className="figures"
					/>
					<TextField label="Sender" name="sender" defaultValue={mail.sender} help="Empty: the company’s email" />
					<TextField label="Answers go to" name="replyTo" defaultValue={mail.replyTo} help="Empty: the sender" />
					<TextField label="Unseen copies to" name="bcc" defaultValue={mail.bcc} help="Of every message; empty: none" />
					<span />
					<TextField label="User" name="user" defaultValue={mail.user} autoComplete="off" />
					<TextField
						label="Password"
						name="password"
						type="password"
						autoComplete="new-password"
						help={hasPassword ? 'One is kept; leave empty to keep it' : 'None is kept'}
					/>
					<label className="mt-7 flex items-center gap-2">
						<input type="checkbox" name="secure" defaultChecked={mail.secure} className="size-4 accent-plum" /> TLS from
						the first byte
					</label>
				</div>
				<details className="text-sm" open={mail.perMinute > 0}>
					<summary className="cursor-pointer text-plum underline">
						What the mail server takes, and when it is tried again
					</summary>
					<div className="mt-3 grid grid-cols-3 gap-4">
						<TextField
							label="Lines at once"
							name="lines"
							type="number"
							defaultValue={mail.lines}
							min={1}
							max={16}
							className="figures"
						/>
						<TextField
							label="Messages a line"
							name="perLine"
							type="number"
							defaultValue={mail.perLine}
							min={1}
							max={10_000}
							className="figures"
							help="Then it is opened anew"
						/>
						<TextField
							label="Messages a minute"
							name="perMinute"
							type="number"
							defaultValue={mail.perMinute}
							min={0}
							className="figures"
							help="Over all lines; 0: any number"
						/>
						<TextField
							label="Tried again after minutes"
							name="retryMinutes"
							defaultValue={mail.retry.minutes.join(', ')}
							className="figures"
							help="What the server puts off; the last again and again"
						/>
						<TextField
							label="For at most hours"
							name="retryHours"
							type="number"
							defaultValue={mail.retry.hours}
							min={1}
							max={240}
							className="figures"
							help="Then a person decides in the Postroom"
						/>
					</div>
				</details>
			</SavedForm>
		</div>
	)
}

import { join } from 'node:path'
import { openPracticePost, practiceServer } from '@/post/practiceMail'
import { dataFolder } from '@/store/openBooks'
import { cannotBe } from './ends'

const port = Number(process.env.NORTH_TALLY_SMTP_PORT ?? 4748)
const server = practiceServer(openPracticePost(join(dataFolder(), 'practice-mail')), () => new Date().toISOString())
server.on('error', (error) => {
	console.error(`Practice mail: ${error.message}`)
	// One of a line that is open ends that line alone.
	if (!server.server.listening) process.exit(cannotBe)
})
server.listen(port, '127.0.0.1', () => {
	console.log(`Practice mail listens on 127.0.0.1:${port} only`)
	process.send?.('ready')
})
const end = () => server.close(() => process.exit(0))
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, end)
process.on('disconnect', end)

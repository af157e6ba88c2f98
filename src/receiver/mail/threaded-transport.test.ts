import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ComposedMail } from './compose'
import { openThreadedTransport } from './threaded-transport'
import { refusalOf } from './transport'

/** In place of the built thread: says by the recipient what becomes of a mail. */
const thread = join(mkdtempSync(join(tmpdir(), 'ask-box-thread-')), 'thread.cjs')
writeFileSync(
  thread,
  `const { parentPort } = require('node:worker_threads')
  parentPort.on('message', ({ n, mail: { to } }) => {
    if (to === 'ends') process.exit(1)
    const refused = { responseCode: 550, response: '550 nobody here', command: 'RCPT TO', message: 'no' }
    parentPort.postMessage(to === 'nobody' ? { n, refused } : { n, said: '250 ' + to })
  })`,
)

test('answers and refusals come back to the mail they are of; a thread that ended is started again', async () => {
  const server = { host: '127.0.0.1', port: 1, security: 'none' as const, user: '', password: '' }
  const transport = openThreadedTransport(thread, server, null)
  const send = (to: string) => transport.send({ messageId: `<${to}@m.example>`, to, files: [] } as ComposedMail)
  const refused = send('nobody').catch(refusalOf)
  expect(await Promise.all([send('ada'), send('ben'), refused])).toEqual([
    '250 ada',
    '250 ben',
    { cause: 'unclear', code: 550, key: 'recipient 550 ', stage: 'recipient', said: '550 nobody here' },
  ])
  const broken = send('ends').catch(refusalOf)
  expect(await broken).toMatchObject({ cause: 'passing' })
  expect(await send('cleo')).toBe('250 cleo')
  transport.close()
})

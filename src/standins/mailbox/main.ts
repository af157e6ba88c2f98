import { randomUUID } from 'node:crypto'
import { resolve } from 'node:path'
import { SMTPServer } from 'smtp-server'
import { Boxes } from './boxes'
import { deliveryReport } from './report'

/**
 * The stand-in mailbox: a real SMTP server that takes mail for every address and keeps it, so that mail can be tried
 * without sending any to the world. Prints `ready <address>` once it listens.
 */
const port = Number(process.env.ASKBOX_SMTP_PORT || 4325)
const boxes = new Boxes(process.env.ASKBOX_MAILBOX || resolve('data/mailbox'))
// With the demo's mail, one server of an invented school has closed.
if (process.argv.includes('--demo-mail'))
  boxes.startBehaviour({ rules: [{ to: '@oldschool.example', does: 'refuse', seconds: 0 }] })
const LARGEST_MAIL = 40 * 1024 * 1024

const server = new SMTPServer({
  name: 'mailbox.example',
  banner: 'Stand-in mailbox',
  size: LARGEST_MAIL,
  authOptional: true,
  disabledCommands: ['STARTTLS'],
  // Any name and password will do: there is nothing here to protect.
  onAuth: (auth, _, done) => done(null, { user: auth.username ?? '' }),
  onRcptTo(address, _, done) {
    const rule = boxes.ruleFor(address.address)
    if (rule?.does === 'refuse') return done(reply(550, '5.1.1 No such mailbox'))
    if (rule?.does === 'busy') return done(reply(451, '4.3.0 Come again later'))
    done()
  },
  onData(stream, session, done) {
    const chunks: Buffer[] = []
    stream.on('data', (chunk: Buffer) => chunks.push(chunk))
    stream.on('end', () => {
      const bytes = Buffer.concat(chunks)
      const returnPath = session.envelope.mailFrom === false ? '' : session.envelope.mailFrom.address
      for (const { address } of session.envelope.rcptTo) {
        const rule = boxes.ruleFor(address)
        if (rule?.does === 'bounce') {
          const report = deliveryReport({
            from: address,
            to: returnPath,
            about: bytes,
            id: randomUUID(),
            now: Date.now(),
          })
          if (returnPath !== '') boxes.put(returnPath, '', report, Date.now())
        } else if (rule?.does === 'delay')
          setTimeout(() => boxes.put(address, returnPath, bytes, Date.now()), rule.seconds * 1_000)
        else boxes.put(address, returnPath, bytes, Date.now())
      }
      done(null, 'Taken')
    })
  },
})

function reply(responseCode: number, message: string): Error {
  return Object.assign(new Error(message), { responseCode })
}

server.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EADDRINUSE') {
    console.error(`Port ${port} (ASKBOX_SMTP_PORT) is in use by another program.`)
    process.exit(2)
  }
  // A client that broke off is nobody's trouble here.
  if (error.code !== 'ECONNRESET' && error.code !== 'EPIPE') console.error(error.message)
})
server.listen(port, '127.0.0.1', () => console.log(`ready smtp://127.0.0.1:${port}`))
const stop = () => server.close(() => process.exit(0))
process.once('SIGINT', stop)
process.once('SIGTERM', stop)

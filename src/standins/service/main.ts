import { mkdirSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { serve } from '@hono/node-server'
import { serviceApp } from './app'
import { openAsking } from './asking'
import { Holdings } from './holdings'

/** Starts the pretend list services: `node service.js`. Prints `ready <address>`. */
const port = Number(process.env.ASKBOX_SERVICE_PORT || 4330)
if (!Number.isInteger(port) || port < 0 || port > 65_535) {
  console.error(
    `ASKBOX_SERVICE_PORT must be a whole number from 0 to 65535, but is “${process.env.ASKBOX_SERVICE_PORT}”.`,
  )
  process.exit(2)
}
const folder = join(process.env.ASKBOX_DATA || resolve('data/receiver'), 'stand-ins')
mkdirSync(folder, { recursive: true })
const address = `http://127.0.0.1:${port}`
const asking = openAsking(address, Number(process.env.ASKBOX_SMTP_PORT || 4325))
const holdings = new Holdings(join(folder, 'service.jsonl'))
const app = serviceApp(holdings, asking, async (service, list, email) => {
  const told = holdings.tellsTo(service)
  if (told === '') return
  await fetch(told, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ event: 'person.left', list, person: { email } }),
  }).catch((error: unknown) => console.error(error))
})
const server = serve({ fetch: app.fetch, port, hostname: '127.0.0.1' }, () => console.log(`ready ${address}/`))
server.on('error', (error: NodeJS.ErrnoException) => {
  console.error(
    error.code === 'EADDRINUSE' ? `Port ${port} (ASKBOX_SERVICE_PORT) is in use by another program.` : error.message,
  )
  process.exit(2)
})
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => process.exit(0))

import type { SmtpServer } from '#core/api'
import { parentPort, workerData } from 'node:worker_threads'
import type { ComposedMail } from './compose'
import type { Dkim } from './settings'
import { openTransport } from './transport'

/**
 * The thread that writes mail out, signs it and speaks with the mail server, so that sign-ups never wait for it. Takes
 * `{ n, mail }`, answers `{ n, said }` or `{ n, refused }`.
 */
const { server, dkim } = workerData as { server: SmtpServer; dkim: Dkim | null }
const transport = openTransport(server, dkim)

parentPort!.on('message', async ({ n, mail }: { n: number; mail: ComposedMail }) => {
  try {
    parentPort!.postMessage({ n, said: await transport.send(mail) })
  } catch (error) {
    // What says why, by name: a copied error keeps none of its own properties.
    const { responseCode, response, command, code, message } = error as Record<string, unknown>
    parentPort!.postMessage({ n, refused: { responseCode, response, command, code, message } })
  }
})

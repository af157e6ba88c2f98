import { startReceiver } from '../dist/server/start-receiver.js'

/**
 * The built receiver in a process that stays: it ends one and starts the next as its parent asks, with another
 * environment. To start a process takes ten times as long as what it does then.
 */
let running = null

process.on('message', async ({ environment }) => {
  await running?.stop()
  running = environment === null ? null : await startReceiver(environment, null)
  process.send({ address: running?.address ?? null })
})
// Ended as the program ends.
process.once('SIGTERM', async () => {
  await running?.stop()
  process.exit()
})
process.once('disconnect', () => process.exit())

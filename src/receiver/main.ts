import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import type { Server } from 'node:http'
import { dirname, join, resolve } from 'node:path'
import { serve } from '@hono/node-server'
import { readWorkspace, shiftedTo } from '#core/workspace'
import { receiverApp } from './app'
import { type Ledger, openLedger } from './ledger'
import { keptOwnerKey, WrongOwnerKey } from './owner-key'
import { mailParts } from './mail-parts'
import { Rehearsals } from './rehearsal/rehearsals'
import { Repeating } from './rehearsal/repeating'
import { readSettings, type Settings } from './settings'
import { DataFolderInUse, openEmbeddedEngine } from './store'

/**
 * Starts the receiver: `node receiver.js [--demo <workspace file>]`. Prints `ready <workshop address>` once
 * sign-ups can be stored. What is wrong with the surroundings is said in one line, with exit code 2.
 */
async function start(): Promise<void> {
  // Whatever is written from here on is this user's alone.
  process.umask(0o077)
  const reading = readSettings(process.env, resolve('data/receiver'))
  if (!reading.ok) return fail(reading.message)
  const { settings } = reading
  const now = clockOf(settings.clockFile)
  let ledger: Ledger
  let ownerKey: string
  try {
    mkdirSync(settings.dataFolder, { recursive: true, mode: 0o700 })
    ledger = await openLedger(await openEmbeddedEngine(settings.dataFolder), now)
    ownerKey = settings.ownerKey ?? keptOwnerKey(settings.dataFolder)
  } catch (error) {
    if (error instanceof DataFolderInUse || error instanceof WrongOwnerKey) return fail(error.message)
    return fail(
      `The data folder ${settings.dataFolder} (ASKBOX_DATA) cannot be used: ${(error as Error).message.replaceAll(/\s+/g, ' ')}`,
    )
  }
  const demo = process.argv[process.argv.indexOf('--demo') + 1]
  if (process.argv.includes('--demo') && demo !== undefined) await fillFromDemo(ledger, demo, settings.dataFolder)

  const workshop = resolve(import.meta.dirname, '../workshop')
  const rehearsals = new Rehearsals(ledger)
  const mail = mailParts({
    ledger,
    settings,
    rehearsals,
    now,
    // Built with the receiver; where its sources run, there is none.
    thread: [resolve(import.meta.dirname, 'mail-thread.js')].find(existsSync),
  })
  const app = receiverApp({
    rehearsals,
    mail,
    ledger,
    settings,
    ownerKey,
    workshop: existsSync(workshop) ? workshop : null,
    files: [resolve(import.meta.dirname, '../visitors'), resolve('dist/visitors')].find(existsSync) ?? null,
  })
  const stopSending = await mail.sender.start()
  const server = serve({ fetch: app.fetch, port: settings.port, hostname: settings.host }, () => {
    console.log(`ready ${pairingAddress(settings, ownerKey)}`)
  })
  const http = server as Server
  // An upload of the owner's may be large and slow; a sign-up has a shorter time of its own (see read-body.ts).
  http.requestTimeout = 120_000
  http.headersTimeout = 15_000
  server.on('error', (error: NodeJS.ErrnoException) => {
    fail(
      error.code === 'EADDRINUSE'
        ? `Port ${settings.port} (ASKBOX_PORT) is in use by another program.`
        : `Cannot listen (ASKBOX_HOST, ASKBOX_PORT): ${error.message}`,
    )
  })
  const stopRepeating = new Repeating(ledger, rehearsals, settings, mail.rehearsalMail).start()
  const stopExpiring = expiring(ledger, settings.clockFile === null ? EXPIRE_EVERY_MS : 500)
  const stop = () => {
    stopRepeating()
    stopExpiring()
    server.close()
    void stopSending()
      .then(() => ledger.close())
      .then(() => process.exit(0))
  }
  process.once('SIGINT', stop)
  process.once('SIGTERM', stop)
}

/** Looks now and then for those whose waiting is over. */
function expiring(ledger: Ledger, every: number): () => void {
  const look = () => void ledger.expireWaiting().catch((error: unknown) => console.error(error))
  look()
  const timer = setInterval(look, every)
  return () => clearInterval(timer)
}

/** The real clock; in tests moved by what a file says, read anew each second. */
function clockOf(file: string | null): () => number {
  if (file === null) return Date.now
  let read = { at: 0, ahead: 0 }
  return () => {
    const real = Date.now()
    if (real - read.at > 500) read = { at: real, ahead: existsSync(file) ? Number(readFileSync(file, 'utf8')) || 0 : 0 }
    return real + read.ahead
  }
}

/** The fragment never leaves the browser, so the key stands in no log. */
function pairingAddress(settings: Settings, ownerKey: string): string {
  return `${settings.publicUrl}/#key=${encodeURIComponent(ownerKey)}`
}

const EXPIRE_EVERY_MS = 20_000

/** The stand-in sites' address in the demo file; they may be started on another port. */
const DEMO_SITES = 'http://127.0.0.1:4320'

/** Gives an empty store the demo's history, moved to end today. A store with anything in it stays as it is. */
async function fillFromDemo(ledger: Ledger, file: string, dataFolder: string): Promise<void> {
  if (ledger.latest() > 0 || ledger.latestChange() > 0) return
  const reading = readWorkspace(
    readFileSync(file, 'utf8').replaceAll(DEMO_SITES, `http://127.0.0.1:${process.env.ASKBOX_SITES_PORT || 4320}`),
  )
  if (!reading.ok) return fail(`The demo ${file} cannot be read: ${reading.problem.path} ${reading.problem.message}`)
  // Its gifts lie beside it.
  const gifts = join(dirname(file), 'gifts')
  mkdirSync(join(dataFolder, 'gifts'), { recursive: true, mode: 0o700 })
  for (const gift of existsSync(gifts) ? readdirSync(gifts) : [])
    writeFileSync(join(dataFolder, 'gifts', gift), readFileSync(join(gifts, gift)), { mode: 0o600 })
  try {
    await ledger.seed(shiftedTo(new Date().toISOString(), reading.workspace))
  } catch (error) {
    return fail(`The demo ${file} cannot be stored: ${(error as Error).message.replaceAll(/\s+/g, ' ')}`)
  }
}

function fail(message: string): never {
  console.error(message)
  process.exit(2)
}

await start()

import { once } from 'node:events'
import { existsSync, readFileSync } from 'node:fs'
import type { Server, ServerResponse } from 'node:http'
import { resolve } from 'node:path'
import { serve } from '@hono/node-server'
import { receiverApp } from './app'
import { lastWritten } from './people'
import { type BrowserPort, BrowserProcess, Browsers, type BrowserReadiness, SharedBrowsers } from './browser'
import { newestCopyIn, openCare } from './care'
import { type Clock, openClock } from './clock'
import { forgetRecurringLeases, runRecurring } from './work'
import { CannotStart } from './cannot-start'
import { makeDataFolder, rootWarning } from './data-folder'
import { asRequest, complain, openLog, tell } from './log'
import { guardConnections } from './http/connections'
import { fillFromDemo, giveDemoKeys, queueDemoMail } from './demo'
import { handOverParts } from './hand-over'
import { type Ledger, openLedger } from './ledger'
import { addDemoLetters, letterComposer } from './letters'
import { mailParts } from './mail'
import { Metrics } from './metrics'
import { pairingAddress } from './secrets/api'
import { Rehearsals } from './rehearsals'
import {
  keptOwnerKey,
  keptSecret,
  OtherSecret,
  OwnerKeys,
  sealsAlike,
  type Sealing,
  sealingWith,
  WrongOwnerKey,
} from './secrets'
import { readSettings, type Settings } from './settings'
import { databaseMovedTo, movedTo, Mover } from './moving'
import { DataFolderInUse, isDamage, switchable, type SwitchableEngine } from './store'
import type { ReceiverParts, Subject } from './subject'
import { openSharedStore, openStore, subjects, type Transaction } from './subjects'
import { version } from './version'

/** Within this, a receiver that stops has given its answers and let go of its work: service managers and balancers wait no longer. */
const DRAIN_MS = 9_000
/** How long after a start the store is read through. */
const READ_AFTER_MS = 30_000
/** How often is looked what is due where time is made up. */
const MADE_UP_MS = 500

export interface RunningReceiver {
  /** The workshop's address, with a code that pairs one browser. */
  address: string
  /** What is not as it should be with who runs it; null for nothing. */
  warning: string | null
  /** Whether there is a browser for rehearsals. */
  browser(): Promise<BrowserReadiness>
  /** Takes no more, waits for mail that is going out, closes the data folder, then the connections that are left. */
  stop(): Promise<void>
}

/**
 * Starts the receiver; it is ready when sign-ups can be stored.
 *
 * @param environment as in `process.env`
 * @param demo path of a workspace file with which an empty data folder is filled
 * @param more whether the demo's newest people get their mail, as if they had just signed up
 * @throws CannotStart what was opened until then stays open until the process ends
 */
export async function startReceiver(
  environment: Record<string, string | undefined>,
  demo: string | null,
  { withDemoMail = false, all = subjects }: { withDemoMail?: boolean; all?: readonly Subject[] } = {},
): Promise<RunningReceiver> {
  // Whatever is written from here on is this user's alone.
  process.umask(0o077)
  const reading = readSettings(environment, resolve('data/receiver'))
  if (!reading.ok) throw new CannotStart(reading.message)
  const { settings } = reading
  openLog(settings.log)
  const kept = await openKept(settings, all)
  const { clock, ledger } = kept
  const isFilled = demo !== null && (await fillWith(demo, { ledger, clock, settings, environment, withDemoMail }))

  const stopping = new AbortController()
  const { parts, shared } = await openParts(kept, { settings, all, isFilled, stopping: stopping.signal })
  const { browsers, care, keys } = parts
  const http = await serveOver(parts, { all, ownerKey: kept.ownerKey })
  const stopServing = shared?.start(ledger.onNews)
  tell('started', { version, shared: ledger.isShared })
  const stopWorking = all.flatMap(({ workers }) => workers?.(parts) ?? []).map((worker) => worker.start())
  const stopJobs = runRecurring(
    all.flatMap(({ jobs }) => jobs?.(parts) ?? []),
    ledger.values,
    clock.now,
    settings.clockFile === null ? null : MADE_UP_MS,
  )
  // Each process for itself: whether its disk takes anything, and that time goes on.
  // Once this is well under way.
  const firstLook = setTimeout(() => void (ledger.isShared || care.store.look().catch(complain)), READ_AFTER_MS)
  const touching = setInterval(() => void ledger.checkHealth().catch(complain), 20_000)
  return {
    address: pairingAddress(settings.publicUrl, await keys.newStartCode()),
    warning: rootWarning(settings.dataFolder),
    browser: () => browsers.state(),
    async stop() {
      clearInterval(touching)
      clearTimeout(firstLook)
      tell('stopping')
      const end = performance.now() + DRAIN_MS
      const inTime = (work: Promise<unknown>) => within(Math.max(0, end - performance.now()), work)
      // Whoever stands before several receivers sends nobody here from now on; streams end, answers in hand are given.
      stopping.abort()
      const closed = once(http, 'close')
      http.close()
      http.closeIdleConnections()
      stopServing?.()
      // A rehearsal that is going on ends with its browser.
      await inTime(Promise.all([browsers.stop(), stopJobs(), ...stopWorking.map((stop) => stop())]))
      await inTime(closed)
      http.closeAllConnections()
      await closed
      await within(1_000, ledger.close())
    },
  }
}

/** All that subjects have of it. `shared` has pages opened by other receivers' browsers; null where it is alone. */
async function openParts(
  { engine, clock, ledger, ownerKey, sealing }: OpenStore,
  {
    settings,
    all,
    isFilled,
    stopping,
  }: { settings: Settings; all: readonly Subject[]; isFilled: boolean; stopping: AbortSignal },
): Promise<{ parts: ReceiverParts & { browsers: BrowserPort }; shared: SharedBrowsers | null }> {
  const rehearsals = new Rehearsals(ledger, clock.now)
  const care = openCare({ ledger, settings, now: clock.now, thread: builtThread('check-thread.js') })
  await care.begin()
  const mail = mailParts({
    ...{ ledger, settings, rehearsals, clock },
    alertWords: care.alertWords,
    letter: letterComposer(ledger, settings),
    thread: builtThread('mail-thread.js'),
  })
  // What the demo, or a receiver that had its store for itself, laid into the folder.
  await mail.gifts.share()
  const program = builtThread('browser-process.js')
  const own = program === undefined ? new Browsers(settings) : new BrowserProcess(settings, program)
  const shared = ledger.isShared ? new SharedBrowsers(own, ledger.values, clock.now) : null
  const browsers = shared ?? own
  rehearsals.onEnd((code) => void browsers.end(code))
  const handOver = handOverParts({
    ledger,
    settings,
    sealing,
    now: clock.now,
    thread: builtThread('service-thread.js'),
  })
  if (isFilled && settings.serviceStandIns !== null) await giveDemoKeys(ledger, handOver)
  const metrics = new Metrics(true)
  ledger.measureCommits((writes) => metrics.commit(writes))
  metrics.over(ledger, () => all.flatMap(({ lanes }) => lanes?.({ ledger }) ?? []))
  const keys = new OwnerKeys(ledger.values, ownerKey, clock.now)
  const mover = new Mover({ engine, settings, care: care.file, now: clock.now })
  return {
    parts: {
      ...{ ledger, settings, clock, keys, mail, handOver, rehearsals, browsers, care, metrics, stopping, mover },
      program: builtThread,
    },
    shared,
  }
}

/** @throws CannotStart where its port cannot be had */
async function serveOver(
  parts: ReceiverParts,
  { all, ownerKey }: { all: readonly Subject[]; ownerKey: string },
): Promise<Server> {
  const { settings, stopping } = parts
  const workshop = resolve(import.meta.dirname, '../workshop')
  const app = receiverApp({
    ...parts,
    all,
    ownerKey,
    workshop: existsSync(workshop) ? workshop : null,
    files: [resolve(import.meta.dirname, '../visitors'), resolve('dist/visitors')].find(existsSync) ?? null,
  })
  const answer = (request: Request, env: object) => asRequest(request, () => app.fetch(request, env))
  const http = serve({ fetch: answer, port: settings.port, hostname: settings.host }) as Server
  guardConnections(http)
  http.prependListener('request', (_, outgoing: ServerResponse) => {
    // Whoever asks on goes to another receiver.
    if (stopping.aborted) outgoing.setHeader('Connection', 'close')
  })
  await listening(http, settings)
  return http
}

/** What the receiver keeps, opened: its store with all that is written in it, and its keys. */
interface OpenStore {
  engine: SwitchableEngine<Transaction>
  clock: Clock
  ledger: Ledger
  ownerKey: string
  sealing: Sealing
}

/** @throws CannotStart */
async function openKept(settings: Settings, all: readonly Subject[]): Promise<OpenStore> {
  let engine: SwitchableEngine<Transaction> | null = null
  try {
    makeDataFolder(settings.dataFolder)
    engine = await openEngine(settings, all)
    const clock = clockOf(settings.clockFile, await lastWritten(engine.now))
    const sealing = sealingWith(() => keptSecret(settings.secret, settings.dataFolder))
    const ledger = await openLedger(engine, clock.now, clock.sureNow, sealing)
    // A data folder is held by this process alone: whoever had something in hand before is gone.
    if (!engine.isShared) {
      await ledger.queue.forgetLeases()
      await forgetRecurringLeases(ledger.values)
    } else if (!(await sealsAlike(ledger.values, sealing))) throw new OtherSecret()
    await ledger.beginLinkKeys()
    clock.onSetBack((byMs) => void ledger.queue.setBack(byMs).catch(complain))
    return { engine, clock, ledger, sealing, ownerKey: settings.ownerKey ?? keptOwnerKey(settings.dataFolder) }
  } catch (error) {
    await engine?.close().catch(complain)
    throw asCannotStart(error as Error, settings)
  }
}

/** @throws CannotStart where what was here was moved elsewhere */
async function openEngine(settings: Settings, all: readonly Subject[]): Promise<SwitchableEngine<Transaction>> {
  if (settings.database === null) {
    const to = movedTo(settings.dataFolder)
    if (to !== null)
      throw new CannotStart(
        `What was in ${settings.dataFolder} (ASKBOX_DATA) was moved to ${to}. Set DATABASE_URL, or move it back with “npm run move”.`,
      )
    return switchable(await openStore(settings.dataFolder, builtThread('copy-thread.js'), all))
  }
  const engine = switchable(await openSharedStore(settings.database, all))
  const elsewhere = await databaseMovedTo(engine)
  if (elsewhere === null) return engine
  await engine.close()
  throw new CannotStart(
    `What was in this database (DATABASE_URL) was moved to ${elsewhere}. Set ASKBOX_DATA to that folder, and take DATABASE_URL away.`,
  )
}

/** In one line, and with what to do. */
function asCannotStart(error: Error, { dataFolder, database }: Settings): CannotStart {
  if (error instanceof CannotStart) return error
  if (error instanceof DataFolderInUse || error instanceof WrongOwnerKey || error instanceof OtherSecret)
    return new CannotStart(error.message)
  const why = error.message.replaceAll(/\s+/g, ' ')
  if (database !== null) return new CannotStart(`The database (DATABASE_URL) cannot be used: ${why}`)
  return new CannotStart(
    isDamage(error)
      ? `The store in ${dataFolder} (ASKBOX_DATA) is damaged: ${why}. ${newestCopyIn(dataFolder)}`
      : `The data folder ${dataFolder} (ASKBOX_DATA) cannot be used: ${why}`,
  )
}

/** Fills an empty store with the demo; tells whether it was empty. */
async function fillWith(
  demo: string,
  {
    ledger,
    clock,
    settings,
    environment,
    withDemoMail,
  }: Pick<OpenStore, 'ledger' | 'clock'> & {
    settings: Settings
    environment: Record<string, string | undefined>
    withDemoMail: boolean
  },
): Promise<boolean> {
  const addresses = {
    sites: `http://127.0.0.1:${environment.ASKBOX_SITES_PORT || '4320'}`,
    receiver: settings.publicUrl,
    services: settings.serviceStandIns,
  }
  const isFilled = await fillFromDemo(ledger, demo, settings.dataFolder, addresses)
  if (isFilled && withDemoMail) {
    await queueDemoMail(ledger, clock.now())
    await addDemoLetters(ledger, clock.now(), addresses.sites)
  }
  return isFilled
}

/** Waits for work, at most so long. What fails is complained of. */
async function within(ms: number, work: Promise<unknown>): Promise<void> {
  let timer: ReturnType<typeof setTimeout> | undefined
  const over = new Promise<void>((resolve) => (timer = setTimeout(resolve, ms)))
  await Promise.race([work.catch(complain), over])
  clearTimeout(timer)
}

/** The program of a thread, or of another process, is built with the receiver; where its sources run, there is none. */
function builtThread(name: string): string | undefined {
  return [resolve(import.meta.dirname, name)].find(existsSync)
}

async function listening(http: Server, { host, port }: Settings): Promise<void> {
  try {
    await once(http, 'listening')
  } catch (error) {
    const { code, message } = error as NodeJS.ErrnoException
    const said: Record<string, string> = {
      EADDRINUSE: `Port ${port} (ASKBOX_PORT) is in use by another program.`,
      EACCES: `Port ${port} (ASKBOX_PORT) is not allowed to this user: below 1024 it is root’s. Choose another, such as 4310, and let a web server pass on to it (docs/going-online.md).`,
      EADDRNOTAVAIL: `ASKBOX_HOST is ${host}, which is no address of this computer. 127.0.0.1 is for a web server on it, 0.0.0.0 for all networks.`,
      ENOTFOUND: `ASKBOX_HOST is ${host}, which no name server knows. 127.0.0.1 is for a web server on this computer, 0.0.0.0 for all networks.`,
    }
    throw new CannotStart(said[code ?? ''] ?? `Cannot listen (ASKBOX_HOST, ASKBOX_PORT): ${message}`)
  }
}

/** The computer's clock, held against its steady one; in tests time passes by what a file says, read anew each second. */
function clockOf(file: string | null, lastWritten: number | null): Clock {
  if (file === null) return openClock(Date.now, () => performance.now(), lastWritten)
  let read = { at: -Infinity, ahead: 0 }
  const ahead = () => {
    const at = performance.now()
    if (at - read.at > 500)
      read = { at, ahead: existsSync(file) ? Math.max(read.ahead, Number(readFileSync(file, 'utf8')) || 0) : 0 }
    return read.ahead
  }
  return openClock(
    () => Date.now() + ahead(),
    () => performance.now() + ahead(),
    lastWritten,
  )
}

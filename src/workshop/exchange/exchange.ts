import { liveQuery } from 'dexie'
import { publishedOf } from '#core/workspace'
import { database, emptyDatabase, exportWorkspace, type ExchangeState, readSetting, takeEntries, writeSetting } from '../db'
import { type Client, clientFor, type Pairing, ReceiverProblem, Unreachable } from './client'

const FIRST_RETRY_MS = 1_000
const LONGEST_RETRY_MS = 15_000

/**
 * Keeps this browser and the receiver in step: pulls the journal, sends queued commands, listens for news.
 * One tab of all that are open does it, as long as it lives (Web Locks); the others see the database change.
 */
export function holdExchange(pairing: Pairing): { stop(): void } {
  const ended = new AbortController()
  void navigator.locks
    .request('askbox-exchange', { signal: ended.signal }, () => exchangeUntil(ended.signal, clientFor(pairing)))
    .catch(() => {
      // Ended while waiting for another tab to let go.
    })
  return { stop: () => ended.abort() }
}

async function exchangeUntil(ended: AbortSignal, client: Client): Promise<void> {
  let wait = FIRST_RETRY_MS
  while (!ended.aborted) {
    const round = new AbortController()
    const stopRound = () => round.abort()
    ended.addEventListener('abort', stopRound)
    try {
      await exchangeOnce(client, round.signal, () => (wait = FIRST_RETRY_MS))
    } catch (error) {
      if (!ended.aborted) await writeSetting('exchange', stateAfter(error))
    } finally {
      round.abort()
      ended.removeEventListener('abort', stopRound)
    }
    await pause(wait, ended)
    wait = Math.min(wait * 2, LONGEST_RETRY_MS)
  }
}

/** Connects, catches up, and stays until the connection breaks. */
async function exchangeOnce(client: Client, signal: AbortSignal, onLinked: () => void): Promise<void> {
  const { journal, latest, publicUrl } = await client.describe()
  await writeSetting('publicUrl', publicUrl)
  const here = await readSetting('journal')
  if (here !== undefined && here.cursor > 0 && (here.id !== journal || here.cursor > latest)) {
    const state: ExchangeState =
      latest === 0 || here.id === journal ? { state: 'empty-receiver', missing: here.cursor - latest } : { state: 'other-journal', entries: latest }
    await writeSetting('exchange', state)
    return
  }
  if (here !== undefined && here.cursor === 0 && here.id !== journal) await database.settings.delete('journal')
  if ((await database.forms.count()) === 0) await takePublished(client)
  await pull(client)
  await writeSetting('exchange', { state: 'linked' })
  onLinked()
  await keepInStep(client, signal)
}

/** Pulls at each news and sends at each new command, one after the other, until the stream breaks. */
async function keepInStep(client: Client, signal: AbortSignal): Promise<void> {
  let working: Promise<void> = Promise.resolve()
  let fail: (error: unknown) => void = () => {}
  const failed = new Promise<never>((_, reject) => (fail = reject))
  const next = (work: () => Promise<void>) => {
    working = working.then(() => (signal.aborted ? undefined : work())).catch(fail)
  }
  const queue = liveQuery(() => database.commands.filter(({ refusal }) => refusal === null).count()).subscribe((waiting) => {
    if (waiting > 0) next(() => sendCommands(client))
  })
  try {
    await Promise.race([client.listen(() => next(() => pull(client)), signal), failed])
  } finally {
    queue.unsubscribe()
    await working
  }
}

async function pull(client: Client): Promise<void> {
  for (;;) {
    const cursor = (await readSetting('journal'))?.cursor ?? 0
    const { journal, entries, latest } = await client.entriesAfter(cursor)
    if ((await takeEntries(journal, entries)) >= latest || entries.length === 0) return
  }
}

/** Sends what is queued. A command leaves the queue only when its outcome is here, so none is lost in between. */
async function sendCommands(client: Client): Promise<void> {
  const waiting = (await database.commands.toArray()).filter(({ refusal }) => refusal === null)
  if (waiting.length === 0) return
  const { outcomes } = await client.send(waiting.map(({ command }) => command))
  await pull(client)
  await database.transaction('rw', database.commands, async () => {
    for (const outcome of outcomes) {
      if (outcome.ok) await database.commands.delete(outcome.id)
      else await database.commands.update(outcome.id, { refusal: outcome.problem })
    }
  })
}

/** What was published comes back into an emptied workshop; each draft starts as its newest version. */
async function takePublished(client: Client): Promise<void> {
  const published = await client.published()
  await database.transaction('rw', [database.sites, database.lists, database.forms, database.versions, database.spots], async () => {
    await database.sites.bulkPut(published.sites)
    await database.lists.bulkPut(published.lists)
    await database.versions.bulkPut(published.versions)
    await database.spots.bulkPut(published.spots)
    for (const form of published.forms) {
      const newest = published.versions.filter((version) => version.form === form.id).sort((one, other) => other.number - one.number)[0]
      if (newest !== undefined) await database.forms.put({ ...form, draft: newest.content })
    }
  })
}

const REFILL_BATCH = 500

/** Fills a new receiver with everything published and all that happened, from here. Reports its progress, 0 to 1. */
export async function refillReceiver(pairing: Pairing, onProgress: (share: number) => void, signal: AbortSignal): Promise<void> {
  const client = clientFor(pairing)
  const workspace = await exportWorkspace(new Date().toISOString())
  const { id, entries } = workspace.journal
  await client.publish(publishedOf(workspace))
  if (id === null) return
  let { latest } = await client.describe()
  while (latest < entries.length && !signal.aborted) {
    latest = (await client.refill(id, entries.slice(latest, latest + REFILL_BATCH))).latest
    onProgress(latest / entries.length)
  }
}

/** Empties this workshop; the exchange then pulls everything the receiver holds. */
export async function takeReceiversHistory(): Promise<void> {
  await emptyDatabase()
}

function stateAfter(error: unknown): ExchangeState {
  if (error instanceof ReceiverProblem && error.status === 401) return { state: 'key-refused' }
  const reason = error instanceof Unreachable ? 'no answer' : error instanceof Error ? error.message : 'unknown'
  return { state: 'offline', reason }
}

/** Waits, but no longer than until the browser says that it is online again. */
function pause(ms: number, ended: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    const done = () => {
      clearTimeout(timer)
      removeEventListener('online', done)
      ended.removeEventListener('abort', done)
      resolve()
    }
    const timer = setTimeout(done, ms)
    addEventListener('online', done)
    ended.addEventListener('abort', done)
  })
}

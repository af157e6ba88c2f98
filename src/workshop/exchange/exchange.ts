import { liveQuery, type Table } from 'dexie'
import { sameContent, type Version } from '#core/form'
import { publishedOf } from '#core/workspace'
import { database, emptyDatabase, exportWorkspace, type ExchangeState, readSetting, settleCommands, takeEntries, writeSetting } from '../db'
import { newId, now } from '../moment'
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
  await takePublished(client)
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

const COMMANDS_AT_ONCE = 500

/** Sends what is queued. A command leaves the queue only when its outcome is here, so none is lost in between. */
async function sendCommands(client: Client): Promise<void> {
  const waiting = await database.transaction('rw', database.commands, async () => {
    const all = (await database.commands.toArray()).filter(({ refusal }) => refusal === null).slice(0, COMMANDS_AT_ONCE)
    await database.commands.bulkPut(all.filter(({ sentAt }) => sentAt === undefined).map((queued) => ({ ...queued, sentAt: now() })))
    return all
  })
  if (waiting.length === 0) return
  const { outcomes } = await client.send(waiting.map(({ command }) => command))
  await pull(client)
  await settleCommands(outcomes)
}

/**
 * Takes in what was published, by this browser once or by another: everything that is missing here comes
 * (back), and a draft that nobody has touched since its newest version here moves on to the newest there is.
 * What the owner has changed here stays.
 */
export async function takePublished(client: Client): Promise<void> {
  const published = await client.published()
  const { sites, lists, forms, versions, spots, pictures } = database
  const deleted = new Set(published.forms.filter(({ deletedAt }) => deletedAt).map(({ id }) => id as string))
  await database.transaction('rw', [sites, lists, forms, versions, spots, pictures, database.edits], async () => {
    for (const [table, there] of [
      [sites, published.sites],
      [lists, published.lists],
      [spots, published.spots.filter(({ form }) => !deleted.has(form))],
      [pictures, published.pictures],
    ] as unknown as [Table<{ id: string }, string>, { id: string }[]][]) {
      const here = new Set(await table.toCollection().primaryKeys())
      await table.bulkPut(there.filter(({ id }) => !here.has(id)))
    }
    for (const { deletedAt, ...form } of published.forms) {
      if (deletedAt) continue
      const newest = newestVersion(published.versions.filter((version) => version.form === form.id))
      const known = await forms.get(form.id)
      const knownVersion = newestVersion(await versions.where('form').equals(form.id).toArray())
      const isUntouched = known !== undefined && knownVersion !== undefined && sameContent(known.draft, knownVersion.content)
      if (newest === undefined || (known !== undefined && (!isUntouched || newest.number === knownVersion.number))) continue
      await forms.put({ ...(known ?? { ...form, theme: null, isArchived: false }), draft: newest.content })
      await database.edits.put({ form: form.id, mark: newId(), by: 'published' })
    }
    await versions.bulkPut(published.versions.filter(({ form }) => !deleted.has(form)))
  })
}

function newestVersion(versions: readonly Version[]): Version | undefined {
  return versions.reduce<Version | undefined>((best, one) => (best === undefined || one.number > best.number ? one : best), undefined)
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

import type { News } from '#core/api'
import Dexie, { type ObservabilitySet } from 'dexie'
import {
  BLOCK,
  database,
  emptyAfterWithdrawal,
  OtherJournal,
  type QueuedCommand,
  queuedCommands,
  readSetting,
  requireJournal,
  settleCommands,
  type SyncState,
  forgetErasedAddresses,
  takeEntries,
  objectTableNames,
  touches,
  writeSetting,
} from '../data'
import type { JournalId } from '#core/ids'
import { now } from '../clock'
import { whenRested } from '../rest'
import { pullObjects, sendChanges } from './changes'
import { type Client, clientFor, type Pairing, ReceiverProblem, Unreachable } from '../client'

const FIRST_RETRY_MS = 1_000
const LONGEST_RETRY_MS = 15_000
/** After the last change to what the owner makes: typing is sent when the hands rest, not at each key. */
const REST_MS = 700

/**
 * Keeps this browser and the receiver in step: pulls the journal and what other browsers made, sends changes and queued
 * commands, listens for news. One tab of all that are open does it, as long as it lives (Web Locks); the others see the
 * database change.
 */
export function holdSync(pairing: Pairing): { stop(): void } {
  const ended = new AbortController()
  void navigator.locks
    .request('askbox-sync', { signal: ended.signal }, () => syncUntil(ended.signal, clientFor(pairing)))
    .catch((error: unknown) => {
      // Ended while waiting for another tab to let go. Anything else is news.
      if (!ended.signal.aborted) throw error
    })
  return { stop: () => ended.abort() }
}

async function syncUntil(ended: AbortSignal, client: Client): Promise<void> {
  let wait = FIRST_RETRY_MS
  while (!ended.aborted) {
    const round = new AbortController()
    const stopRound = () => round.abort()
    ended.addEventListener('abort', stopRound)
    try {
      await syncOnce(client, round.signal, () => (wait = FIRST_RETRY_MS))
    } catch (error) {
      // The browser's own database may be what fails, and then cannot keep the state either.
      if (!ended.aborted)
        await stateAfter(error, client)
          .then((state) => state && keepState(state))
          .catch(() => {})
    } finally {
      round.abort()
      ended.removeEventListener('abort', stopRound)
    }
    await pause(wait, ended)
    wait = Math.min(wait * 2, LONGEST_RETRY_MS)
  }
}

/** Connects, catches up, and stays until the connection breaks. */
async function syncOnce(client: Client, signal: AbortSignal, onLinked: () => void): Promise<void> {
  const { journal, latest, latestChange, publicUrl, bearer } = await client.describe()
  await writeSetting('publicUrl', publicUrl)
  await writeSetting('bearer', bearer)
  // A file that is being opened is not whole yet.
  if ((await readSetting('opening')) !== undefined) return
  if (!(await belongsTo(journal))) {
    await keepState(
      latest === 0 && latestChange === 0
        ? { state: 'empty-receiver', missing: (await readSetting('journal'))?.cursor ?? 0 }
        : { state: 'other-journal', entries: latest },
    )
    return
  }
  await pullObjects(client)
  await pullJournal(client)
  await sendChanges(client, journal)
  await sendCommands(client, journal)
  await keepState({ state: (await readSetting('unknownEntries')) === undefined ? 'linked' : 'reload-needed' })
  onLinked()
  await keepInStep(client, journal, signal)
}

/**
 * Whether what is here is of the history that a receiver keeps. Where there is nothing that any receiver could lack, the
 * workshop belongs to whichever it meets: from now on to this one, unless a file is being opened here.
 */
function belongsTo(id: JournalId): Promise<boolean> {
  const { journal, commands, settings } = database
  const tables = [journal, commands, ...objectTableNames.map((name) => database[name])]
  return database.transaction('rw', [...tables, settings], async () => {
    if ((await readSetting('journal'))?.id === id) return true
    const counts = await Promise.all(tables.map((table) => table.count()))
    if ((await readSetting('opening')) !== undefined || counts.some((count) => count > 0)) return false
    await writeSetting('journal', { id, cursor: 0, mark: '' })
    await writeSetting('objects', { cursor: 0, mark: '' })
    return true
  })
}

/** Pulls at each news and sends at each change, one after the other, until the stream breaks. */
async function keepInStep(client: Client, journal: JournalId, signal: AbortSignal): Promise<void> {
  let working: Promise<void> = Promise.resolve()
  let fail: (error: unknown) => void = () => {}
  const failed = new Promise<never>((_, reject) => (fail = reject))
  const next = (work: () => Promise<void>) => {
    working = working.then(() => (signal.aborted ? undefined : work())).catch(fail)
  }
  const sendWhenAtRest = whenRested(() => next(() => sendChanges(client, journal)), REST_MS, 5 * REST_MS)
  const onChange = (parts: ObservabilitySet) => {
    if (touches(parts, ['commands'])) next(() => sendCommands(client, journal))
    if (touches(parts, [...objectTableNames, 'synced'])) sendWhenAtRest()
  }
  Dexie.on('storagemutated', onChange)
  const pull = async (news: News) => {
    // Other numbers than here, lower ones too: a receiver that was put back is found out by its answer.
    if ((await readSetting('objects'))?.cursor !== news.latestChange) await pullObjects(client)
    if ((await readSetting('journal'))?.cursor !== news.latest) await pullJournal(client)
    if ((await readSetting('unknownEntries')) !== undefined) await keepState({ state: 'reload-needed' })
  }
  try {
    // What was changed between the first sending and now.
    next(() => sendChanges(client, journal))
    next(() => sendCommands(client, journal))
    await Promise.race([client.listen((news) => next(() => pull(news)), signal), failed])
  } finally {
    Dexie.on.storagemutated.unsubscribe(onChange)
    await working
  }
}

/** Read, checked and written within a frame or two; whole blocks, so that none is written twice. */
const ENTRIES_AT_ONCE = 8 * BLOCK

/** Pulls what happened since the cursor. While one stretch is written, the next is already on its way. */
async function pullJournal(client: Client): Promise<void> {
  const { cursor, mark } = (await readSetting('journal')) ?? { cursor: 0, mark: '' }
  let page = await client.entriesAfter(cursor, mark, ENTRIES_AT_ONCE)
  for (;;) {
    const next =
      page.cursor < page.latest && page.entries.length > 0
        ? client.entriesAfter(page.cursor, page.mark, ENTRIES_AT_ONCE)
        : null
    // Should writing fail, nobody waits for this one any more.
    next?.catch(() => {})
    await takeEntries(page.journal, page.entries, page.mark)
    if (next === null) return forgetErasedAddresses(async (addresses) => (await client.askErased(addresses)).erased)
    page = await next
  }
}

const COMMANDS_AT_ONCE = 500

/** Sends what is queued, in its order. A command leaves the queue only when its outcome is here, so none is lost in between. */
async function sendCommands(client: Client, journal: JournalId): Promise<void> {
  for (;;) {
    const waiting = await database.transaction('rw', database.commands, database.settings, async () => {
      await requireJournal(journal)
      const queued = await queuedCommands()
      const isForeign = (one: QueuedCommand) => one.journal !== null && one.journal !== journal
      await putSome(
        queued.filter(isForeign).map((one) => ({
          ...one,
          refusal: {
            code: 'other-receiver' as const,
            message: 'This change was made for another receiver, so it was not sent to this one.',
          },
        })),
      )
      const own = queued.filter((one) => !isForeign(one)).slice(0, COMMANDS_AT_ONCE)
      await putSome(own.filter(({ sentAt }) => sentAt === undefined).map((one) => ({ ...one, sentAt: now() })))
      return own
    })
    if (waiting.length === 0) return
    // A member cannot be added to a list that the receiver does not know of yet.
    await sendChanges(client, journal)
    const { outcomes } = await client.sendCommands(waiting.map(({ command }) => command))
    await pullJournal(client)
    await settleCommands(outcomes)
    if (outcomes.length === 0) return
  }
}

/** Writing nothing would count as a change to the queue, which is looked at whenever it changes. */
async function putSome(commands: QueuedCommand[]): Promise<void> {
  if (commands.length > 0) await database.commands.bulkPut(commands)
}

async function keepState(state: SyncState): Promise<void> {
  await writeSetting('sync', state)
}

/** Null while a file is being opened: what is here is of no history then, and there is nothing to tell yet. */
async function stateAfter(error: unknown, client: Client): Promise<SyncState | null> {
  if (error instanceof ReceiverProblem && error.status === 401) {
    if (error.code !== KEY_WITHDRAWN) return { state: 'key-refused' }
    await emptyAfterWithdrawal()
    return null
  }
  const isOtherHistory =
    error instanceof OtherJournal || (error instanceof ReceiverProblem && error.code === OTHER_HISTORY)
  if (isOtherHistory) {
    const there = await client.describe().catch(() => null)
    const here = await readSetting('journal')
    if (here === undefined) return null
    if (there !== null)
      return there.journal === here.id
        ? { state: 'older-receiver', entries: there.latest }
        : { state: 'other-journal', entries: there.latest }
  }
  const reason = error instanceof Unreachable ? 'no answer' : error instanceof Error ? error.message : 'unknown'
  return { state: 'offline', reason }
}

const OTHER_HISTORY = 'other-history'
/** As `KEY_WITHDRAWN` of core/api, which is loaded with the first request only. */
const KEY_WITHDRAWN = 'key-withdrawn'

/**
 * Sends now what was changed here, without waiting for the hands to rest.
 *
 * @param ids of the objects in question
 * @returns whether the receiver has taken them in; false while there is no way to it, or where it did not take them
 */
export async function sendNow(pairing: Pairing, ids: readonly string[]): Promise<boolean> {
  const client = clientFor(pairing)
  try {
    const { journal } = await client.describe()
    await sendChanges(client, journal)
    const sent = await database.synced.bulkGet([...ids])
    return sent.every((one) => one?.conflict === undefined && one?.refusal === undefined)
  } catch {
    return false
  }
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

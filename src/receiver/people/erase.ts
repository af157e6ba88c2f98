import { inboxOf } from '#core/email'
import type { MemberId } from '#core/ids'
import { type Chunk, emailIn, type Entry, type NewEntry } from '#core/journal'
import { affectedMembers, type List, type Member } from '#core/list'
import type { Engine, Transaction } from '../subjects'
import type { StoredBatch } from './batch-tables'
import { commitmentOf } from './journal-marks'
import { appendEntry } from './append'
import { endBatch, ofBatch } from './batches'
import { TABLE_WRITTEN } from '../hand-over'
import { letterKey } from '../letters'
import type { LinkKeys } from '../secrets'
import { MAIL, type MailBody } from '../mail/queued'
import type { Job } from '../work/tables'

/** Entries that are looked at in one transaction. */
const ENTRIES_AT_ONCE = 250
/** People who are forgotten in one transaction. */
const PEOPLE_AT_ONCE = 50
/** As many numbers or people in one entry. */
const IN_ONE_ENTRY = 5_000
/** As many saved filters are named that hold one of the addresses. */
const MOST_FILTERS = 50

/** People to erase, on all lists, by id and by address. */
interface Erased {
  ids: Set<MemberId>
  /** As compared. */
  addresses: Set<string>
  people: Member[]
}

type Run = <T>(work: (transaction: Transaction) => Promise<T>) => Promise<T>

/**
 * Erases the people of a batch everywhere in the store: first from the journal, stretch by stretch, then from the lists,
 * the queue and the outcomes that are remembered. It goes on where it stopped; until its end the lists still tell who it
 * is about.
 *
 * @param keys of the hashes of erased addresses
 */
export async function eraseBatch({
  engine,
  run,
  id,
  now,
  keys,
}: {
  engine: Engine
  run: Run
  id: string
  now: () => number
  keys: LinkKeys
}): Promise<void> {
  const begun = await engine.now.batch(id)
  if (begun === null || begun.state !== 'applying') return
  const erased = await whoIsErased(engine.now, begun)
  const texts = [...new Set(erased.people.flatMap(({ email }) => [email.typed.toLowerCase(), email.compared]))]
  for (let isMore = true; isMore;) {
    isMore = await run((transaction) => blankStretch(transaction, id, erased))
    await turnOfOthers()
  }
  for (let at = 0; at < erased.people.length; at += PEOPLE_AT_ONCE) {
    const some = erased.people.slice(at, at + PEOPLE_AT_ONCE)
    await run((transaction) => forget(transaction, { id, people: some, erased, now: now(), keys }))
    await turnOfOthers()
  }
  await run(async (transaction) => {
    const stored = await transaction.batch(id)
    if (stored === null || stored.state !== 'applying') return
    await tellNumbers(transaction, stored, now())
    // Tables that are written for others are written anew, without them.
    for (const { name } of await transaction.valuesNamed(TABLE_WRITTEN, now())) await transaction.dropValue(name)
  })
  const filters = await filtersWith(engine.now, texts)
  const left = await engine.occurrences(texts)
  await run(async (transaction) => {
    const stored = await transaction.batch(id)
    if (stored === null || stored.state !== 'applying') return
    await endBatch(transaction, { ...stored, report: { ...reportOf(stored), left, filters } }, now(), false)
  })
}

/** Saved filters in which somebody's address stands: they are their owner's to change, so they are named. */
async function filtersWith(store: Transaction, texts: readonly string[]): Promise<string[]> {
  const lists = (await store.objectsOf('list')).map(({ body }) => body as List | null)
  return lists
    .flatMap((list) =>
      (list?.filters ?? [])
        .filter(({ filter }) => {
          const words = JSON.stringify(filter).toLowerCase()
          return texts.some((text) => words.includes(text))
        })
        .map(({ name }) => `${name} (${list?.name ?? ''})`),
    )
    .slice(0, MOST_FILTERS)
}

const turnOfOthers = () => new Promise((resolve) => setImmediate(resolve))

async function whoIsErased(store: Transaction, { batch, chunks }: StoredBatch): Promise<Erased> {
  const lists = (await store.objectsOf('list')).map(({ key }) => key)
  const erased: Erased = { ids: new Set(), addresses: new Set(), people: [] }
  for (let number = 0; number < chunks; number += 1) {
    const chunk = (await store.batchChunk(batch.id, number)) as Chunk | null
    for (const id of chunk !== null && 'erase' in chunk ? chunk.erase : []) {
      const member = await store.member(id)
      // Missing members were erased before this process took over.
      if (member === null || erased.addresses.has(member.email.compared)) continue
      erased.addresses.add(member.email.compared)
      for (const list of lists) {
        const one = await store.memberWithAddress(list, member.email.compared)
        if (one === null || erased.ids.has(one.id)) continue
        erased.ids.add(one.id)
        erased.people.push(one)
      }
    }
  }
  // Who wrote to the owner before they put a slip right did so under another address.
  for (const entry of await store.corrections())
    if (entry.kind === 'member-corrected' && entry.personal !== null && erased.ids.has(entry.member))
      erased.addresses.add(entry.personal.was.compared)
  return erased
}

/** Blanks what the next stretch of the journal tells of them. False at its end. */
async function blankStretch(transaction: Transaction, id: string, erased: Erased): Promise<boolean> {
  const stored = await transaction.batch(id)
  if (stored === null || stored.state !== 'applying') return false
  const page = await transaction.entriesAfter(stored.at, ENTRIES_AT_ONCE)
  if (page.length === 0) return false
  const blanked: number[] = []
  for (const { entry } of page) {
    if (!isAbout(entry, erased)) continue
    const { n, ...rest } = entry
    await transaction.blankEntry(n, { ...rest, personal: null, commitment: commitmentOf(rest as NewEntry) } as NewEntry)
    blanked.push(n)
    if (entry.kind === 'message') await transaction.dropMessage(entry.id)
  }
  // Numbers of blanked entries are kept with the chunks until the closing entry tells them to workshops.
  if (blanked.length > 0) await transaction.keepBatchChunk(id, stored.chunks + stored.chunk, { numbers: blanked })
  const report = reportOf(stored)
  await transaction.keepBatch({
    ...stored,
    at: page.at(-1)!.entry.n,
    total: Math.max(stored.total, (await transaction.newestEntry()).n),
    chunk: stored.chunk + (blanked.length > 0 ? 1 : 0),
    report: { ...report, entries: report.entries + page.length, blanked: report.blanked + blanked.length },
  })
  return true
}

/** Whether an entry tells something of somebody who is erased. What is told of many goes with the last of them. */
function isAbout(entry: Entry, { ids, addresses }: Erased): boolean {
  if (!('personal' in entry) || entry.personal === null) return false
  if ('members' in entry) return affectedMembers(entry).every((id) => ids.has(id))
  const compared = emailIn(entry as NewEntry)?.compared
  return (entry.member !== null && ids.has(entry.member)) || (compared !== undefined && addresses.has(compared))
}

async function forget(
  transaction: Transaction,
  {
    id,
    people,
    erased,
    now,
    keys,
  }: { id: string; people: readonly Member[]; erased: Erased; now: number; keys: LinkKeys },
): Promise<void> {
  // What they did since the journal was gone through.
  while (await blankStretch(transaction, id, erased));
  const stored = await transaction.batch(id)
  if (stored === null || stored.state !== 'applying') return
  const report = reportOf(stored)
  for (const { email, id: member } of people) {
    const inbox = inboxOf(email.compared)
    const inboxes = [inbox, letterKey(inbox)]
    const jobs: Job[] = []
    for (const key of inboxes) jobs.push(...(await transaction.jobsWithLimitKey(MAIL, key, 10_000)))
    for (const job of jobs) {
      const { member: about, recipient } = job.body as MailBody
      if (about !== member && recipient.compared !== email.compared) continue
      await transaction.dropJob(job.id)
      report.mails += 1
    }
    for (const text of new Set([email.typed, email.compared]))
      report.outcomes += await transaction.dropOutcomesWith(text)
    await transaction.dropDownloads(member)
    await transaction.forgetReader(member)
    await transaction.keepErased(keys.erasedHashes(email.compared)[0]!)
  }
  report.members += people.length
  await appendEntry(transaction, {
    ...ofBatch(stored.batch, now),
    kind: 'members-erased',
    members: people.map(({ id: member }) => member),
    entries: [],
    hashes: [...new Set(people.map(({ email }) => keys.erasedHashes(email.compared)[0]!))],
  })
  const { counts } = stored
  await transaction.keepBatch({ ...stored, counts: { ...counts, done: counts.done + people.length }, report })
}

/** Tells workshops which entries are blank. */
async function tellNumbers(transaction: Transaction, stored: StoredBatch, now: number): Promise<void> {
  const numbers: number[] = []
  for (let at = 0; at < stored.chunk; at += 1) {
    const chunk = (await transaction.batchChunk(stored.batch.id, stored.chunks + at)) as { numbers: number[] }
    numbers.push(...chunk.numbers)
  }
  for (let at = 0; at < numbers.length; at += IN_ONE_ENTRY)
    await appendEntry(transaction, {
      ...ofBatch(stored.batch, now),
      kind: 'members-erased',
      members: [],
      entries: numbers.slice(at, at + IN_ONE_ENTRY),
      hashes: [],
    })
}

function reportOf({ report }: StoredBatch) {
  return { ...(report ?? { entries: 0, blanked: 0, members: 0, mails: 0, outcomes: 0, left: null, filters: [] }) }
}

import { DEMO_DATABASE, isDemo } from './demo'
import Dexie, { type EntityTable, type Table } from 'dexie'
import type { Measures } from '#core/checkup'
import type { Form, Theme, Version } from '#core/form'
import type { FormId, JournalId, ListId, SpotId } from '#core/ids'
import type { Arrival, Command, Entry, Verdict } from '#core/journal'
import type { List, MemberStatus, Refusal } from '#core/list'
import type { Delivery, GiftPiece, Mail } from '#core/mail'
import type { Picture } from '#core/picture'
import type { Proof, RehearsalCase } from '#core/proof'
import type { Site } from '#core/site'
import type { Spot } from '#core/spot'
import type { Body, Kind } from '#core/sync'
import { formFrom1, siteFrom1, versionFrom1 } from '#core/workspace'

/** A change to people on its way to the receiver, or refused by it and waiting to be read by the owner. */
export interface QueuedCommand {
  id: Command['id']
  command: Command
  /** Its place in the queue: changes are made in the order in which their owner made them. */
  order: number
  /** The history that it was made for; null before the first receiver was known. It never goes to another. */
  journal: JournalId | null
  queuedAt: string
  /** When it was first sent; from then on the receiver may know of it. */
  sentAt?: string
  /** Of a removal that its owner took back after it was sent: what the member is to be again. */
  takenBack?: Exclude<MemberStatus, 'removed'>
  refusal: Refusal | null
}

/**
 * What this browser and the receiver last had in common of one object: an object that differs from it was changed here
 * and waits to be sent; an object that is gone was taken away here.
 */
export interface Synced {
  /** Kind and key: `form 4kdm…`. */
  id: string
  kind: Kind
  key: string
  revision: number
  /** Null for what was taken away; for what never changes, which is known by its key alone. */
  body: Body | null
  /** What another browser made of it while it was changed here as well. Nothing is sent until the owner has chosen. */
  conflict?: { revision: number; body: Body | null }
  /** 1 with a conflict, so that it can be found. */
  isConflict?: 1
  /** Why the receiver did not take it, as it then was here. */
  refusal?: { body: Body | null; message: string }
}

/** Single values, by name. */
export interface Settings {
  /** The receiver this workshop belongs to. */
  pairing: { receiver: string; key: string }
  /** Which journal the entries here are of, and the number up to which they are here. */
  journal: {
    id: JournalId
    cursor: number
    /** The history's mark at the cursor; null when it is not known. */ mark: string | null
  }
  /** The same for what the owner makes. */
  objects: { cursor: number; mark: string }
  /** Set by an upgrade from the time when the receiver knew only what was published: what is here is then the newer. */
  isFirstSync: true
  /** Entries of kinds that this version does not know were pulled: the smallest number. */
  unknownEntries: number
  /** A workspace file is being opened; what is here is not whole until it is done. */
  opening: { file: string }
  /** How visitors reach the receiver, as it said last. */
  publicUrl: string
  /** How the workshop and the receiver are in step; written by the one tab that sees to it. */
  sync: SyncState
  /** How many of each list have each status, as of an entry: shown at the next opening until all are counted. */
  peopleCounts: {
    journal: JournalId | null
    cursor: number
    counts: Record<ListId, Record<MemberStatus, number>>
  }
  /** By list, whether its mail is known to arrive, as the receiver told last. */
  delivery: Record<string, Delivery>
  backupAt: string
  scheme: 'system' | 'light' | 'dark'
  /** What a rehearsal tries, in this browser. */
  rehearsalCases: RehearsalCase[]
  /** Hosts whose videos the owner lets onto forms. */
  videoHosts: string[]
  /** How often the receiver rehearses by itself. */
  rehearseEvery: 'never' | 'day' | 'week'
  /** What links in mails are signed with; the receiver makes it. */
  linkKey: string
}
export type Setting = keyof Settings

export type SyncState =
  | { state: 'linked' | 'key-refused' | 'reload-needed' }
  | { state: 'offline'; reason: string }
  /** The receiver has no history yet, this workshop has one: it can be filled from here. */
  | { state: 'empty-receiver'; missing: number }
  /** The receiver keeps another history than this workshop. */
  | { state: 'other-journal'; entries: number }
  /** The receiver was put back to an older copy of itself, and may have gone on from there. */
  | { state: 'older-receiver'; entries: number }

/**
 * Entries of the journal lie in blocks of so many, because that writes some twenty times as many a second as each by
 * itself. Few enough that a block is written anew for one entry more within some milliseconds.
 */
export const BLOCK = 200

type LastArrival = { spot: SpotId; verdict: Verdict; arrival: Arrival }

/** Of each spot among some entries, the newest sign-up of each verdict. */
export function lastArrivalsAmong(entries: readonly Entry[]): LastArrival[] {
  const found = new Map<string, LastArrival>()
  for (const entry of entries)
    if (entry.kind === 'arrival')
      found.set(`${entry.spot} ${entry.verdict}`, { spot: entry.spot, verdict: entry.verdict, arrival: entry })
  return [...found.values()]
}

class WorkshopDatabase extends Dexie {
  sites!: EntityTable<Site, 'id'>
  lists!: EntityTable<List, 'id'>
  forms!: EntityTable<Form, 'id'>
  versions!: Table<Version, [FormId, number]>
  spots!: EntityTable<Spot, 'id'>
  /** Of each list, the mail that it sends. */
  mails!: EntityTable<Mail, 'list'>
  themes!: EntityTable<Theme, 'id'>
  pictures!: EntityTable<Picture, 'id'>
  /** The bytes of gifts; see gift-files.ts. */
  giftPieces!: Table<GiftPiece, [string, number]>
  /** Who wrote a form's draft last; see drafts.ts. */
  edits!: Table<{ form: FormId; mark: string; by: string }, FormId>
  /** The journal, in blocks of entries one after the other; see journal.ts. */
  journal!: EntityTable<{ block: number; entries: Entry[] }, 'block'>
  /** Of each spot, the newest sign-up of each verdict: enough to say what is proven. */
  lastArrivals!: Table<LastArrival, [SpotId, Verdict]>
  commands!: EntityTable<QueuedCommand, 'id'>
  synced!: EntityTable<Synced, 'id'>
  /** What renderings of a form's draft showed last. */
  measures!: EntityTable<{ form: FormId; measures: Measures }, 'form'>
  /** How rehearsals went, the newest of each spot; see proofs.ts. */
  proofs!: EntityTable<Proof, 'id'>
  settings!: Table<{ key: Setting; value: unknown }, Setting>

  constructor() {
    super(isDemo ? DEMO_DATABASE : 'ask-box')
    this.version(1).stores({
      sites: 'id',
      lists: 'id',
      forms: 'id, list',
      versions: '[form+number], form',
      spots: 'id, form, site',
      entries: 'n, [form+n], member',
      members: 'id, [list+joinedAt]',
      commands: 'id',
      settings: 'key',
    })
    this.version(2)
      .stores({ themes: 'id', pictures: 'id', edits: 'form' })
      .upgrade(async (transaction) => {
        // The same steps that bring up a file of version 1.
        for (const [table, change] of [
          ['sites', siteFrom1],
          ['forms', formFrom1],
          ['versions', versionFrom1],
        ] as const) {
          await transaction
            .table(table)
            .toCollection()
            .modify((value, place) => {
              place.value = change(value as Record<string, unknown>)
            })
        }
      })
    this.version(3)
      .stores({
        synced: 'id, isConflict',
        measures: 'form',
        commands: 'id, order',
        entries: 'n, [spot+verdict+n], member',
        members: 'id, [list+status+joinedAt], revision',
      })
      .upgrade(async (transaction) => {
        const settings = transaction.table('settings')
        const journal = (await settings.get('journal')) as { value: { id: JournalId } } | undefined
        if (journal !== undefined) await settings.put({ key: 'journal', value: { ...journal.value, mark: null } })
        await settings.put({ key: 'isFirstSync', value: true })
        await settings.delete('exchange')
        const queued = (await transaction.table('commands').toArray()) as QueuedCommand[]
        queued.sort((one, other) => one.queuedAt.localeCompare(other.queuedAt))
        await transaction
          .table('commands')
          .bulkPut(queued.map((one, at) => ({ ...one, order: at + 1, journal: journal?.value.id ?? null })))
      })
    this.version(4).upgrade(async (transaction) => {
      await transaction
        .table('measures')
        .toCollection()
        .modify((kept: { measures: unknown }) => {
          kept.measures = withSelectors(kept.measures)
        })
    })
    this.version(5)
      // Members are the fold of the journal; nobody keeps them any more.
      .stores({ journal: 'block', lastArrivals: '[spot+verdict]', members: null })
      .upgrade(async (transaction) => {
        const [entries, journal, lastArrivals] = ['entries', 'journal', 'lastArrivals'].map((name) =>
          transaction.table(name),
        ) as [Table<Entry>, Table, Table]
        for (let block = 1; ; block += 1) {
          const inIt = await entries.where('n').between((block - 1) * BLOCK, block * BLOCK, false, true).toArray()
          if (inIt.length === 0) return
          await journal.put({ block, entries: inIt })
          await lastArrivals.bulkPut(lastArrivalsAmong(inIt))
        }
      })
    this.version(6).stores({ entries: null })
    this.version(7).stores({ proofs: 'id, spot' })
    this.version(8).stores({ mails: 'list' })
    this.version(9).stores({ giftPieces: '[file+at], file' })
  }
}

/** What was measured, with the selectors that older workshops kept under another name. */
function withSelectors(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(withSelectors)
  if (value === null || typeof value !== 'object') return value
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) =>
      key === 'place' && typeof inner === 'string' && /^[.:]/.test(inner)
        ? ['selector', inner]
        : [key, withSelectors(inner)],
    ),
  )
}

export const database = new WorkshopDatabase()

export async function readSetting<Name extends Setting>(key: Name): Promise<Settings[Name] | undefined> {
  return (await database.settings.get(key))?.value as Settings[Name] | undefined
}

export async function writeSetting<Name extends Setting>(key: Name, value: Settings[Name]): Promise<void> {
  await database.settings.put({ key, value })
}

/** Forgets everything but the pairing and the appearance, in one step. What the receiver holds comes back by itself: all of it, drafts as well. */
export async function emptyDatabase(): Promise<void> {
  await database.transaction('rw', database.tables, async () => {
    const kept = await database.settings.where('key').anyOf('pairing', 'scheme').toArray()
    for (const table of database.tables) await table.clear()
    await database.settings.bulkPut(kept)
  })
}

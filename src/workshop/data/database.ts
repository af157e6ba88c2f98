import { DEMO_DATABASE, isDemo } from './demo'
import Dexie, { type EntityTable, type Table } from 'dexie'
import type { BearerState } from '#core/api'
import type { Measures } from '#core/checkup'
import type { FormId, JournalId, ListId, SpotId } from '#core/ids'
import type { Arrival, Command, Entry, SentMessage, Verdict } from '#core/journal'
import type { MemberStatus, Refusal } from '#core/list'
import type { Delivery, GiftPiece } from '#core/mail'
import type { RehearsalCase } from '#core/proof'
import { type Body, type Kind, type Tables } from '#core/sync'
import { lookingOn } from './looking-on'
import { declareVersions } from './upgrades'

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
  /** Id of the key that another browser changed it with last, and when, in milliseconds since 1970. */
  by?: string
  changedAt?: number
}

/** Single values, by name. */
export interface LocalSettings {
  /** The receiver this workshop belongs to. */
  pairing: { receiver: string; key: string }
  /** What the key of this browser allows, as the receiver said last. */
  bearer: BearerState
  /** Which journal the entries here are of, and the number up to which they are here. */
  journal: {
    id: JournalId
    cursor: number
    /** The history's mark at the cursor; null when it is not known. */ mark: string | null
  }
  /** The same for what the owner makes. */
  objects: { cursor: number; mark: string }
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
  /** Keys of links from an opened file, for a receiver that is filled from here. */
  linkKeys: { sealed: string } | { plain: string }
  /** Somebody was erased by their address: what waits here and names it is to be forgotten. */
  hasAddressesToForget: true
  scheme: 'system' | 'light' | 'dark'
  /** Whether the line on a form's page is one strip; not kept before it was explained. */
  isLineFolded: boolean
  /** What a rehearsal tries, in this browser. */
  rehearsalCases: RehearsalCase[]
}
export type Setting = keyof LocalSettings

export type SyncState =
  /** `key-withdrawn`: what was here is gone. */
  | { state: 'linked' | 'key-refused' | 'key-withdrawn' | 'reload-needed' }
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

/** A message to the owner, as the journal up to now says. */
export interface KeptMessage {
  /** The number of its entry. */
  n: number
  id: SentMessage['id']
  form: FormId
  /** The address that it came from, as compared; empty for none. */
  from: string
  /** 1 while it is held back, so that it can be found. */
  held: 0 | 1
  message: SentMessage
}

type LastArrival = { spot: SpotId; verdict: Verdict; arrival: Arrival }

/** Of each spot among some entries, the newest sign-up of each verdict. */
export function lastArrivalsAmong(entries: readonly Entry[]): LastArrival[] {
  const newest = new Map<string, LastArrival>()
  for (const entry of entries)
    if (entry.kind === 'arrival')
      newest.set(`${entry.spot} ${entry.verdict}`, { spot: entry.spot, verdict: entry.verdict, arrival: entry })
  return [...newest.values()]
}

type PrimaryKey<Row> = Row extends { id: infer Id }
  ? Id
  : Row extends { form: FormId; number: number }
    ? [FormId, number]
    : Row extends { list: infer Id }
      ? Id
      : string
type ObjectTables = { [Name in keyof Tables]: Table<Tables[Name], PrimaryKey<Tables[Name]>> }

type WorkshopDatabase = Dexie & ObjectTables & OtherTables
interface OtherTables {
  /** The bytes of gifts; see gift-files.ts. */
  giftPieces: Table<GiftPiece, [string, number]>
  /** Who wrote the drafted parts of an object last; see drafts.ts. */
  drafts: EntityTable<{ id: string; mark: string; by: string }, 'id'>
  /** The journal, in blocks of entries one after the other; see journal.ts. */
  journal: EntityTable<{ block: number; entries: Entry[] }, 'block'>
  /** Of each spot, the newest sign-up of each verdict: enough to say what is proven. */
  lastArrivals: Table<LastArrival, [SpotId, Verdict]>
  /** Messages to the owner that are not erased; see messages.ts. */
  messages: EntityTable<KeptMessage, 'n'>
  commands: EntityTable<QueuedCommand, 'id'>
  synced: EntityTable<Synced, 'id'>
  /** What renderings of a form's draft showed last. */
  measures: EntityTable<{ form: FormId; measures: Measures }, 'form'>
  settings: Table<{ key: Setting; value: unknown }, Setting>
}

function openDatabase(): WorkshopDatabase {
  const opened = new Dexie(isDemo ? DEMO_DATABASE : 'ask-box')
  declareVersions(opened)
  opened.use(lookingOn)
  return opened as WorkshopDatabase
}

export const database = openDatabase()

export async function readSetting<Name extends Setting>(key: Name): Promise<LocalSettings[Name] | undefined> {
  return (await database.settings.get(key))?.value as LocalSettings[Name] | undefined
}

export async function writeSetting<Name extends Setting>(key: Name, value: LocalSettings[Name]): Promise<void> {
  await database.settings.put({ key, value })
}

/** Forgets everything but the pairing and the appearance, in one step. What the receiver holds comes back by itself: all of it, drafts as well. */
export async function emptyDatabase(): Promise<void> {
  await database.transaction('rw', database.tables, async () => {
    const settings = await database.settings.where('key').anyOf('pairing', 'bearer', 'scheme').toArray()
    for (const table of database.tables) await table.clear()
    await database.settings.bulkPut(settings)
  })
}

/** Forgets all of it, the key too: its owner withdrew it. */
export async function emptyAfterWithdrawal(): Promise<void> {
  await database.transaction('rw', database.tables, async () => {
    for (const table of database.tables) await table.clear()
    await writeSetting('sync', { state: 'key-withdrawn' })
  })
}

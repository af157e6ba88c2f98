import Dexie, { type EntityTable, type Table } from 'dexie'
import type { Form, Theme, Version } from '#core/form'
import type { FormId, JournalId } from '#core/ids'
import type { Command, Entry } from '#core/journal'
import type { List, Member, MemberStatus, Refusal } from '#core/list'
import type { Picture } from '#core/picture'
import type { Site } from '#core/site'
import type { Spot } from '#core/spot'
import { formFrom1, siteFrom1, versionFrom1 } from '#core/workspace'

/** A change to people on its way to the receiver, or refused by it and waiting to be read by the owner. */
export interface QueuedCommand {
  id: Command['id']
  command: Command
  queuedAt: string
  /** When it was first sent; from then on the receiver may know of it. */
  sentAt?: string
  /** Of a removal that its owner took back after it was sent: what the member is to be again. */
  takenBack?: Standing
  refusal: Refusal | null
}

/** What somebody who is not removed can be. */
export type Standing = Exclude<MemberStatus, 'removed'>

/** Single values, by name. */
export interface Settings {
  /** The receiver this workshop belongs to. */
  pairing: { receiver: string; key: string }
  /** Which journal the entries here are of, and the number up to which they are here. */
  journal: { id: JournalId; cursor: number }
  /** How visitors reach the receiver, as it said last. */
  publicUrl: string
  /** How the exchange with the receiver stands; written by the one tab that holds it. */
  exchange: ExchangeState
  backupAt: string
  scheme: 'system' | 'light' | 'dark'
  /** Hosts whose videos the owner lets onto forms. */
  videoHosts: string[]
}
export type Setting = keyof Settings

export type ExchangeState =
  | { state: 'linked' | 'key-refused' }
  | { state: 'offline'; reason: string }
  /** The receiver has no history yet, this workshop has one: it can be filled from here. */
  | { state: 'empty-receiver'; missing: number }
  /** The receiver keeps another history than this workshop. */
  | { state: 'other-journal'; entries: number }

class WorkshopDatabase extends Dexie {
  sites!: EntityTable<Site, 'id'>
  lists!: EntityTable<List, 'id'>
  forms!: EntityTable<Form, 'id'>
  versions!: Table<Version, [FormId, number]>
  spots!: EntityTable<Spot, 'id'>
  themes!: EntityTable<Theme, 'id'>
  pictures!: EntityTable<Picture, 'id'>
  /** Who wrote a form's draft last; see drafts.ts. */
  edits!: Table<{ form: FormId; mark: string; by: string }, FormId>
  entries!: EntityTable<Entry, 'n'>
  members!: EntityTable<Member, 'id'>
  commands!: EntityTable<QueuedCommand, 'id'>
  settings!: Table<{ key: Setting; value: unknown }, Setting>

  constructor() {
    super('ask-box')
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
        for (const [table, change] of [['sites', siteFrom1], ['forms', formFrom1], ['versions', versionFrom1]] as const) {
          await transaction.table(table).toCollection().modify((value, place) => {
            place.value = change(value as Record<string, unknown>)
          })
        }
      })
  }
}

export const database = new WorkshopDatabase()

export async function readSetting<Name extends Setting>(key: Name): Promise<Settings[Name] | undefined> {
  return (await database.settings.get(key))?.value as Settings[Name] | undefined
}

export async function writeSetting<Name extends Setting>(key: Name, value: Settings[Name]): Promise<void> {
  await database.settings.put({ key, value })
}

/** Forgets everything but the pairing and the appearance, in one step. What the receiver holds comes back by itself. */
export async function emptyDatabase(): Promise<void> {
  await database.transaction('rw', database.tables, async () => {
    const kept = await database.settings.where('key').anyOf('pairing', 'scheme').toArray()
    for (const table of database.tables) await table.clear()
    await database.settings.bulkPut(kept)
  })
}

import Dexie, { type ObservabilitySet } from 'dexie'
import { defineStore } from 'pinia'
import { onScopeDispose, shallowRef } from 'vue'
import type { ListId, MemberId } from '#core/ids'
import type { Command, Consent } from '#core/journal'
import { applyToMember, decide, type Member, type MemberStatus, Roster, type Wanted } from '#core/list'
import { entriesAt, entriesFrom, newestEntry, type QueuedCommand, touches } from '../data'
import { newId } from '../clock'

/** A member as the owner sees it: the journal's state, with what is still on its way to the receiver laid over. */
export interface ShownMember extends Member {
  isPending: boolean
  /** Their removal, while it is on its way, and what they were before. */
  removal?: { command: Command['id']; before: MemberStatus }
}

/** More than one screen of a list, and read in no time. */
const LATE_ENTRIES = 500

/** Everybody, in memory: the journal folded once when first asked for, then kept in step with what is pulled. */
export const useMembers = defineStore('members', () => {
  const roster = new Roster()
  const isReady = shallowRef(false)
  /** Counts up whenever somebody changed. */
  const changes = shallowRef(0)
  let working: Promise<void> | null = null

  const onChange = (parts: ObservabilitySet) => {
    if (working !== null && touches(parts, ['journal'])) working = working.then(catchUp)
  }
  Dexie.on('storagemutated', onChange)
  onScopeDispose(() => Dexie.on.storagemutated.unsubscribe(onChange))

  /** Begins to read everybody; resolves when all are here. */
  function load(): Promise<void> {
    working ??= catchUp()
    return working
  }

  /** Who joined of late, folded from the end of the journal alone: shown until everybody is here. */
  const latecomers = shallowRef<Roster | null>(null)

  async function catchUp(): Promise<void> {
    const newest = await newestEntry()
    // Emptied, or another workspace: nothing of before holds.
    if (newest < roster.cursor) roster.clear()
    if (newest - roster.cursor > LATE_ENTRIES) {
      const late = new Roster()
      for await (const batch of entriesFrom(newest - LATE_ENTRIES)) late.take(batch)
      latecomers.value = late
    }
    for await (const batch of entriesFrom(roster.cursor + 1)) roster.take(batch)
    isReady.value = true
    latecomers.value = null
    changes.value += 1
  }

  /** Those who are wanted, with what is on its way to the receiver laid over. Reads `changes`, so that it is computed anew. */
  function find(wanted: Wanted, queued: readonly QueuedCommand[]): Member[] {
    void changes.value
    const { added, changed } = pending(wanted.list, queued)
    const mine = added.filter(
      (member) => wanted.form === undefined && (wanted.status === undefined || member.status === wanted.status),
    )
    return [...mine, ...roster.find(wanted, changed)]
  }

  /** What queued commands will make of people. */
  function pending(
    list: ListId,
    queued: readonly QueuedCommand[],
  ): { added: ShownMember[]; changed: Map<MemberId, ShownMember> } {
    const changed = new Map<MemberId, ShownMember>()
    const added: ShownMember[] = []
    for (const { command, queuedAt, takenBack } of queued) {
      const member = changed.get(command.member) ?? roster.get(list, command.member)
      if (member !== null && takenBack !== undefined) {
        changed.set(member.id, { ...member, status: takenBack, isPending: true })
        continue
      }
      const decision = decide(
        command,
        { isList: true, member, withAddress: (compared) => roster.withAddress(list, compared) },
        queuedAt,
      )
      const after = decision.ok ? applyToMember(member, { n: (member?.revision ?? 0) + 1, ...decision.entry }) : null
      if (after === null) continue
      if (member === null) added.push({ ...after, isPending: true })
      else
        changed.set(after.id, {
          ...after,
          revision: member.revision,
          isPending: true,
          ...(command.kind === 'remove-member' && { removal: { command: command.id, before: member.status } }),
        })
    }
    return { added, changed }
  }

  /** Who has an address on a list, in whatever status. */
  async function withAddress(list: ListId, compared: string): Promise<Member | null> {
    await load()
    return roster.withAddress(list, compared)
  }

  /** How many of a list have each status; null until everybody is here. */
  function countsOf(list: ListId): Record<MemberStatus, number> | null {
    void changes.value
    return isReady.value ? roster.counts(list) : null
  }

  /** The newest of a list. Until everybody is here, those who joined of late. */
  function newestOf(wanted: Pick<Wanted, 'list' | 'status' | 'limit'>): Member[] {
    void changes.value
    return (isReady.value ? roster : latecomers.value)?.find(wanted) ?? []
  }

  /** Every box that a member ticked, with the words beside it, newest first. */
  async function consentsOf({ list, id }: Pick<Member, 'list' | 'id'>): Promise<GivenConsent[]> {
    await load()
    return (await entriesAt(roster.entriesAbout(list, id)))
      .flatMap((entry) =>
        entry.kind === 'arrival'
          ? (entry.consents ?? []).map((consent) => ({ ...consent, at: entry.at, version: entry.version }))
          : [],
      )
      .reverse()
  }

  return { isReady, load, find, withAddress, countsOf, newestOf, consentsOf }
})

export function newMemberId(): MemberId {
  return newId<MemberId>()
}

export interface GivenConsent extends Consent {
  at: string
  version: number
}

import Dexie, { type ObservabilitySet } from 'dexie'
import { defineStore } from 'pinia'
import { onScopeDispose, shallowRef } from 'vue'
import type { ListId, MemberId } from '#core/ids'
import type { Command, Consent } from '#core/journal'
import { applyToMember, decide, type Member, memberStatuses, type MemberStatus, Roster, type Wanted } from '#core/list'
import { database, type QueuedCommand, readSetting } from '../data'
import { newId } from '../clock'
import { touches } from '../sync'

/** A member as the owner sees it: the journal's state, with what is still on its way to the receiver laid over. */
export interface ShownMember extends Member {
  isPending: boolean
  /** Their removal, while it is on its way, and what they were before. */
  removal?: { command: Command['id']; before: MemberStatus }
}

const LOADED_AT_ONCE = 5_000

/** Everybody, in memory: read once when first asked for, then kept in step with what changes. */
export const useMembers = defineStore('members', () => {
  const roster = new Roster()
  const isReady = shallowRef(false)
  /** Counts up whenever somebody changed. */
  const changes = shallowRef(0)
  let working: Promise<void> | null = null

  const onChange = (parts: ObservabilitySet) => {
    if (working !== null && touches(parts, ['members'])) working = working.then(catchUp)
  }
  Dexie.on('storagemutated', onChange)
  onScopeDispose(() => Dexie.on.storagemutated.unsubscribe(onChange))

  /** Begins to read everybody; resolves when all are here. */
  function load(): Promise<void> {
    working ??= readAll()
    return working
  }

  async function readAll(): Promise<void> {
    for (let after: MemberId | '' = ''; ;) {
      const batch: Member[] = await database.members.where('id').above(after).limit(LOADED_AT_ONCE).toArray()
      roster.take(batch)
      if (batch.length < LOADED_AT_ONCE) break
      after = batch.at(-1)!.id
    }
    isReady.value = true
    await catchUp()
  }

  /** Takes in those whose revision is newer than any here. */
  async function catchUp(): Promise<void> {
    const cursor = (await readSetting('journal'))?.cursor ?? 0
    if (roster.newest > cursor) {
      // Emptied, or another workspace: nothing of before holds.
      roster.clear()
      isReady.value = false
      await readAll()
      return
    }
    const changed = await database.members.where('revision').above(roster.newest).toArray()
    roster.take(changed)
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

  return { isReady, load, find, withAddress }
})

/** The newest of a list, read by themselves: they are there before everybody is. */
export async function newestMembers(
  list: ListId,
  count: number,
  statuses: readonly MemberStatus[] = memberStatuses,
): Promise<Member[]> {
  const ofEach = await Promise.all(
    statuses.map((status) =>
      database.members
        .where('[list+status+joinedAt]')
        .between([list, status, Dexie.minKey], [list, status, Dexie.maxKey])
        .reverse()
        .limit(count)
        .toArray(),
    ),
  )
  return ofEach
    .flat()
    .sort((one, other) => other.joinedAt.localeCompare(one.joinedAt))
    .slice(0, count)
}

/** How many of a list have each status. */
export async function countsOf(list: ListId): Promise<Record<MemberStatus, number>> {
  const counts = await Promise.all(
    memberStatuses.map((status) =>
      database.members
        .where('[list+status+joinedAt]')
        .between([list, status, Dexie.minKey], [list, status, Dexie.maxKey])
        .count(),
    ),
  )
  return Object.fromEntries(memberStatuses.map((status, at) => [status, counts[at]])) as Record<MemberStatus, number>
}

export function newMemberId(): MemberId {
  return newId<MemberId>()
}

export interface GivenConsent extends Consent {
  at: string
  version: number
}

/** Every box that a member ticked, with the words beside it, newest first. */
export async function consentsOf(member: MemberId): Promise<GivenConsent[]> {
  const entries = await database.entries.where('member').equals(member).toArray()
  return entries
    .flatMap((entry) =>
      entry.kind === 'arrival'
        ? (entry.consents ?? []).map((consent) => ({ ...consent, at: entry.at, version: entry.version }))
        : [],
    )
    .reverse()
}

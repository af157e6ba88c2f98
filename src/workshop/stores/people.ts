import Dexie from 'dexie'
import type { FormId, ListId, MemberId } from '#core/ids'
import type { Arrival, Command, Consent } from '#core/journal'
import { applyToMember, decide, type Member, type MemberStatus } from '#core/list'
import { database, type QueuedCommand, queuedCommands } from '../db'
import { newId } from '../moment'

/** A member as the owner sees it: the journal's state, with what is still on its way to the receiver laid over. */
export interface ShownMember extends Member {
  isPending: boolean
  /** Their removal, while it is on its way, and what they were before. */
  removal?: { command: Command['id']; before: MemberStatus }
}

/** Everybody on a list, newest first. */
export async function membersOf(list: ListId, known?: Member[]): Promise<ShownMember[]> {
  const members = known ?? await database.members.where('[list+joinedAt]').between([list, Dexie.minKey], [list, Dexie.maxKey]).reverse().toArray()
  const queued = (await queuedCommands()).filter(({ command }) => command.list === list)
  return withQueued(members, queued)
}

function withQueued(members: Member[], queued: QueuedCommand[]): ShownMember[] {
  const shown = new Map<string, ShownMember>(members.map((member) => [member.id, { ...member, isPending: false }]))
  const added: ShownMember[] = []
  for (const { command, queuedAt, takenBack } of queued) {
    const member = shown.get(command.member) ?? null
    if (member !== null && takenBack !== undefined) {
      shown.set(member.id, { ...member, status: takenBack, isPending: true })
      continue
    }
    const decision = decide(command, { isList: true, member, withAddress: (compared) => members.find((one) => one.email.compared === compared) ?? null }, queuedAt)
    const after = decision.ok ? applyToMember(member, { n: (member?.revision ?? 0) + 1, ...decision.entry }) : null
    if (after === null) continue
    if (member === null) added.push({ ...after, isPending: true })
    else shown.set(after.id, { ...after, revision: member.revision, isPending: true, ...(command.kind === 'remove-member' && { removal: { command: command.id, before: member.status } }) })
  }
  return [...added, ...shown.values()]
}

export function newMemberId(): MemberId {
  return newId<MemberId>()
}

/** The newest sign-ups, by people and bots alike. */
export async function newestArrivals(count: number): Promise<Arrival[]> {
  return (await database.entries.where('[kind+n]').between(['arrival', Dexie.minKey], ['arrival', Dexie.maxKey]).reverse().limit(count).toArray()) as Arrival[]
}

/** Of one form: the newest sign-up by a person, and one that joined. Enough to say what is proven. */
export async function proofOf(form: FormId): Promise<Arrival[]> {
  const newest = (verdict: Arrival['verdict']) =>
    database.entries.where('[form+verdict+n]').between([form, verdict, Dexie.minKey], [form, verdict, Dexie.maxKey]).last() as Promise<Arrival | undefined>
  return (await Promise.all([newest('joined'), newest('already-on-list')])).filter((entry) => entry !== undefined)
}

/** A form's sign-ups by people since a moment, newest first. */
export async function arrivalsSince(form: FormId, since: string): Promise<Arrival[]> {
  return (await database.entries
    .where('[form+n]')
    .between([form, Dexie.minKey], [form, Dexie.maxKey])
    .reverse()
    .until((entry) => entry.at < since)
    .filter((entry) => entry.kind === 'arrival' && entry.verdict !== 'bot')
    .toArray()) as Arrival[]
}

/** Who has an address on a list, in whatever status. */
export async function memberWithAddress(list: ListId, compared: string): Promise<Member | null> {
  const member = await database.members.where('[list+email.compared]').equals([list, compared]).first()
  if (member !== undefined) return member
  // Somebody who was added here and is still on the way.
  return (await membersOf(list, [])).find((one) => one.email.compared === compared) ?? null
}

export interface GivenConsent extends Consent {
  at: string
  version: number
}

/** Every box that a member ticked, with the words beside it, newest first. */
export async function consentsOf(member: MemberId): Promise<GivenConsent[]> {
  const entries = await database.entries.where('member').equals(member).toArray()
  return entries
    .flatMap((entry) => (entry.kind === 'arrival' ? (entry.consents ?? []).map((consent) => ({ ...consent, at: entry.at, version: entry.version })) : []))
    .reverse()
}

import Dexie from 'dexie'
import type { FormId, ListId, MemberId } from '#core/ids'
import type { Arrival, Command, Consent } from '#core/journal'
import { applyToMember, decide, type Member, type MemberStatus } from '#core/list'
import { database, type QueuedCommand } from '../db'
import { newId } from '../moment'

/** A member as the owner sees it: the journal's state, with what is still on its way to the receiver laid over. */
export interface ShownMember extends Member {
  isPending: boolean
  /** Their removal, while it is on its way, and what they were before. */
  removal?: { command: Command['id']; before: MemberStatus }
}

/** Everybody on a list, newest first. */
export async function membersOf(list: ListId): Promise<ShownMember[]> {
  const members = await database.members.where('[list+joinedAt]').between([list, Dexie.minKey], [list, Dexie.maxKey]).reverse().toArray()
  const queued = (await database.commands.toArray()).filter(({ command, refusal }) => refusal === null && command.list === list)
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
    const decision = decide(command, { member, withAddress: (compared) => members.find((one) => one.email.compared === compared) ?? null }, queuedAt)
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
  return (await database.entries.orderBy('n').reverse().filter(({ kind }) => kind === 'arrival').limit(count).toArray()) as Arrival[]
}

/** Of one form: the newest sign-up by a person, and one that joined. Enough to say what is proven. */
export async function proofOf(form: FormId): Promise<Arrival[]> {
  const people = () =>
    database.entries
      .where('[form+n]')
      .between([form, Dexie.minKey], [form, Dexie.maxKey])
      .reverse()
      .filter((entry) => entry.kind === 'arrival' && entry.verdict !== 'bot')
  const [newest, joined] = await Promise.all([people().first(), people().filter((entry) => entry.kind === 'arrival' && entry.verdict === 'joined').first()])
  return [newest, joined].filter((entry) => entry !== undefined) as Arrival[]
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

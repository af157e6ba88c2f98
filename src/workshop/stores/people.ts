import Dexie, { liveQuery } from 'dexie'
import type { FormId, ListId, MemberId } from '#core/ids'
import type { Arrival, Command, Consent } from '#core/journal'
import { applyToMember, decide, type Member } from '#core/list'
import { database, type QueuedCommand } from '../db'
import { newId, now } from '../moment'

/** A member as the owner sees it: the journal's state, with what is still on its way to the receiver laid over. */
export interface ShownMember extends Member {
  isPending: boolean
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
  for (const { command, queuedAt } of queued) {
    const member = shown.get(command.member) ?? null
    const decision = decide(command, { member, withAddress: (compared) => members.find((one) => one.email.compared === compared) ?? null }, queuedAt)
    const after = decision.ok ? applyToMember(member, { n: (member?.revision ?? 0) + 1, ...decision.entry }) : null
    if (after === null) continue
    if (member === null) added.push({ ...after, isPending: true })
    else shown.set(after.id, { ...after, revision: member.revision, isPending: true })
  }
  return [...added, ...shown.values()]
}

type WithoutId<T> = T extends unknown ? Omit<T, 'id'> : never

/** Puts a change to people on its way to the receiver. It is kept until the receiver has answered. Resolves with its id. */
export async function queueCommand(command: WithoutId<Command>): Promise<Command['id']> {
  const whole = { id: newId(), ...command } as Command
  await database.commands.add({ id: whole.id, command: whole, queuedAt: now(), refusal: null })
  return whole.id
}

/**
 * Takes a change back. One that still waits here is never sent. For one that is on its way, `undo` is called when
 * the receiver has done it and this workshop knows: made any sooner, it would be on a member as it no longer is.
 */
export async function takeBack(id: Command['id'], undo: () => Promise<unknown>): Promise<void> {
  const wasHere = await database.transaction('rw', database.commands, async () => {
    const queued = await database.commands.get(id)
    if (queued === undefined || queued.sentAt !== undefined) return false
    await database.commands.delete(id)
    return true
  })
  if (!wasHere && (await isDone(id))) await undo()
}

/** Resolves when the receiver has answered a command: whether it did what was asked. */
function isDone(id: Command['id']): Promise<boolean> {
  return new Promise((resolve, reject) => {
    const subscription = liveQuery(() => database.commands.get(id)).subscribe({
      next: (queued) => {
        if (queued !== undefined && queued.refusal === null) return
        resolve(queued === undefined)
        // It may be known before there is a subscription to end.
        queueMicrotask(() => subscription.unsubscribe())
      },
      error: reject,
    })
  })
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

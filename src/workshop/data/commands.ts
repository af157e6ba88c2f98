import type { MemberId } from '#core/ids'
import { type Command, commandSchema } from '#core/journal'
import { applyToMember, type Member, type MemberStatus, type Refusal } from '#core/list'
import { newId, now } from '../clock'
import { database, readSetting } from './database'
import { entriesAbout, journalTables } from './journal'

type BeforeRemoval = Exclude<MemberStatus, 'removed'>

type WithoutId<T> = T extends unknown ? Omit<T, 'id'> : never

/**
 * Puts a change to people on its way to the receiver. It is kept until the receiver has answered. Resolves with its id.
 *
 * @throws Error with words for the owner, when it is a change that no receiver could take
 */
export async function queueCommand(command: WithoutId<Command>): Promise<Command['id']> {
  const checked = commandSchema.safeParse({ id: newId(), ...command })
  if (!checked.success) {
    const [issue] = checked.error.issues
    throw new Error(
      `This cannot be kept: ${issue?.path.at(-1) === undefined ? '' : `${String(issue.path.at(-1))} `}${issue?.message ?? ''}.`,
    )
  }
  const whole = checked.data
  await database.transaction('rw', database.commands, database.settings, async () => {
    const last = await database.commands.orderBy('order').last()
    const journal = (await readSetting('journal'))?.id ?? null
    await database.commands.add({
      id: whole.id,
      command: whole,
      order: (last?.order ?? 0) + 1,
      journal,
      queuedAt: now(),
      refusal: null,
    })
  })
  return whole.id
}

/** What is queued and not refused, in the order in which it was made. */
export async function queuedCommands() {
  return (await database.commands.orderBy('order').toArray()).filter(({ refusal }) => refusal === null)
}

/**
 * Takes a removal back, at whatever point of its way: one that still waits here is never sent; one that was sent is
 * undone once the receiver has done it, even when this workshop is closed in between; one that is done is undone now.
 *
 * @param before what the member was until then
 */
export async function takeBackRemoval(id: Command['id'], member: MemberId, before: BeforeRemoval): Promise<void> {
  await database.transaction('rw', [database.commands, ...journalTables()], async () => {
    const queued = await database.commands.get(id)
    if (queued === undefined) await bringBack(member, before)
    else if (queued.refusal === null && queued.sentAt === undefined) await database.commands.delete(id)
    else if (queued.refusal === null) await database.commands.update(id, { takenBack: before })
  })
}

/** Takes what the receiver said to commands, after the entries that they led to: done, they leave; refused, they stay to be read. */
export async function settleCommands(
  outcomes: readonly ({ id: Command['id'] } & ({ ok: true } | { ok: false; problem: Refusal }))[],
): Promise<void> {
  await database.transaction('rw', [database.commands, ...journalTables()], async () => {
    for (const outcome of outcomes) {
      const queued = await database.commands.get(outcome.id)
      if (queued === undefined) continue
      if (!outcome.ok && queued.takenBack === undefined)
        await database.commands.update(outcome.id, { refusal: outcome.problem })
      else await database.commands.delete(outcome.id)
      if (outcome.ok && queued.takenBack !== undefined) await bringBack(queued.command.member, queued.takenBack)
    }
  })
}

/** A change on a member as it is now: made any sooner than the removal is known here, it would be on another revision. */
async function bringBack(id: MemberId, status: BeforeRemoval): Promise<void> {
  const member = (await entriesAbout(id)).reduce(applyToMember, null as Member | null)
  if (member?.status === 'removed')
    await queueCommand({ kind: 'restore-member', list: member.list, member: id, revision: member.revision, status })
}

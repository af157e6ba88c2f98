import { type Command, commandSchema } from '#core/journal'
import type { MemberStatus, Refusal } from '#core/list'
import { newId, now } from '../clock'
import { database, readSetting } from './database'

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
 * Takes a removal back that is on its way: one that still waits here is never sent; one that was sent is undone once the
 * receiver has done it, even when this workshop is closed in between.
 *
 * @param before what the member was until then
 * @returns false where it is done already, so that its member has to be restored
 */
export function takeBackRemoval(id: Command['id'], before: BeforeRemoval): Promise<boolean> {
  return database.transaction('rw', database.commands, async () => {
    const queued = await database.commands.get(id)
    if (queued === undefined) return false
    if (queued.refusal === null && queued.sentAt === undefined) await database.commands.delete(id)
    else if (queued.refusal === null) await database.commands.update(id, { takenBack: before })
    return true
  })
}

/** Takes what the receiver said to commands, after the entries that they led to: done, they leave; refused, they stay to be read. */
export async function settleCommands(
  outcomes: readonly ({ id: Command['id'] } & ({ ok: true; n: number } | { ok: false; problem: Refusal }))[],
): Promise<void> {
  await database.transaction('rw', database.commands, database.settings, async () => {
    for (const outcome of outcomes) {
      const queued = await database.commands.get(outcome.id)
      if (queued === undefined) continue
      if (!outcome.ok && queued.takenBack === undefined)
        await database.commands.update(outcome.id, { refusal: outcome.problem })
      else await database.commands.delete(outcome.id)
      // The entry that removed them is their revision: who was changed since stays as they are.
      if (outcome.ok && queued.takenBack !== undefined)
        await queueCommand({
          kind: 'restore-member',
          list: queued.command.list,
          member: queued.command.member,
          revision: outcome.n,
          status: queued.takenBack,
        })
    }
  })
}

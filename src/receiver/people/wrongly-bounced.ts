import type { CommandId, MemberId } from '#core/ids'
import type { Command, Entry } from '#core/journal'
import { affectedMembers, applyToMember, type Member } from '#core/list'
import { isWrongReason } from '#core/mail'

/** How many entries are read in one go, so that sign-ups are taken between two of them. */
const PIECE = 2_000

/**
 * Members that are marked for a refusal which was not about their address: their last entry is that mark, and its
 * reason tells of the sender or of one mail.
 */
export async function wronglyBounced(
  bounces: readonly Entry[],
  member: (id: MemberId) => Promise<Member | null>,
): Promise<Member[]> {
  const members: Member[] = []
  for (const entry of bounces) {
    if (entry.kind !== 'member-bounced' || !isWrongReason(entry.personal?.reason ?? '')) continue
    const marked = await member(entry.member)
    if (marked?.status === 'bounced' && marked.revision === entry.n) members.push(marked)
  }
  return members
}

/**
 * The commands that put them back to what each was before the mark, as the journal tells.
 *
 * @param read entries after a number, oldest first, at most so many
 */
export async function commandsToPutBack(
  marked: readonly Member[],
  read: (after: number, limit: number) => Promise<Entry[]>,
  newId: () => CommandId,
): Promise<Command[]> {
  const markedAt = new Map(marked.map(({ id, revision }) => [id, revision]))
  const before = new Map<MemberId, Member | null>()
  for (let after = 0; ;) {
    const entries = await read(after, PIECE)
    for (const entry of entries) {
      for (const member of affectedMembers(entry))
        if (entry.n < (markedAt.get(member) ?? 0)) before.set(member, applyToMember(before.get(member) ?? null, entry))
    }
    if (entries.length === 0) break
    after = entries.at(-1)!.n
    await new Promise((resolve) => setImmediate(resolve))
  }
  return marked.map(({ id, list, revision }) => ({
    id: newId(),
    kind: 'restore-member',
    list,
    member: id,
    revision,
    status: before.get(id)?.status === 'confirmed' ? 'confirmed' : 'waiting',
  }))
}

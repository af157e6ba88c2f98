import type { ListId } from '#core/ids'
import { memberDigest, type Roster } from '#core/list'
import { clientFor, type Pairing } from '../client'
import { type Task, throwIfStopped } from '../worker-calls'

/**
 * The first of those whom the receiver keeps otherwise than the journal, as this workshop folded it, tells; null for none.
 * Who changed since the journal was pulled last is passed over.
 */
export async function checkMembers(
  roster: Roster,
  pairing: Pairing,
  lists: readonly ListId[],
  task: Task,
): Promise<{ list: ListId; email: string } | null> {
  const client = clientFor(pairing)
  for (const [at, list] of lists.entries()) {
    const { cursor } = roster
    let seen = 0
    for (let after: number | null = 0; after !== null;) {
      throwIfStopped(task)
      const { members, next } = await client.memberDigests(list, after)
      for (const { id, revision, digest } of members) {
        seen += 1
        const member = roster.get(list, id)
        if (revision > cursor || (member !== null && member.revision > cursor)) continue
        if (member === null || member.revision !== revision || memberDigest(member) !== digest)
          return { list, email: member?.email.typed ?? id }
      }
      task.tell((at + 0.5) / lists.length)
      after = next
    }
    // Somebody whom the journal has is there no more.
    if (roster.cursor === cursor && seen < roster.count({ list }, Date.now())) return { list, email: '' }
  }
  return null
}

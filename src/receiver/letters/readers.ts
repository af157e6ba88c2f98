import type { LetterReadersNow } from '#core/api'
import type { LetterContent } from '#core/letter'
import { valueOf } from '#core/list'
import type { Ledger } from '../ledger'
import type { MailParts } from '../mail'
import { inboxHash } from './inbox'
import { isReader } from './sending-work'
import { zoneOf } from './zone-of'

const PEOPLE_AT_ONCE = 2_000
const MOST_EXAMPLES = 3

/** Who would get a letter now, and who would not: everybody of its lists is looked at, a stretch at a time. */
export async function readersNow(
  ledger: Ledger,
  content: LetterContent,
  sender: MailParts['sender'],
  now: number,
): Promise<LetterReadersNow> {
  const counts = { gets: 0, again: 0, filtered: 0, waiting: 0, left: 0, bounced: 0, withoutZone: 0 }
  const examples: LetterReadersNow['examples'] = []
  const inboxes = new Set<string>()
  for (const list of new Set(content.lists)) {
    let rank = 0
    for (;;) {
      const page = await ledger.letters.people(list, rank, PEOPLE_AT_ONCE)
      for (const { member } of page) {
        const { status, email } = member
        if (status === 'waiting' || status === 'left' || status === 'bounced') counts[status] += 1
        if (status !== 'confirmed') continue
        if (!isReader(member, content, now)) {
          counts.filtered += 1
          continue
        }
        const inbox = inboxHash(email.compared)
        if (inboxes.has(inbox)) {
          counts.again += 1
          continue
        }
        inboxes.add(inbox)
        counts.gets += 1
        if (zoneOf(ledger.published(), member) === undefined) counts.withoutZone += 1
        if (examples.length < MOST_EXAMPLES)
          examples.push({ member: member.id, firstName: valueOf(member, 'first-name'), email: email.typed })
      }
      if (page.length < PEOPLE_AT_ONCE) break
      // Sign-ups come between.
      await new Promise((resolve) => setImmediate(resolve))
      rank = page.at(-1)!.rank
    }
  }
  return { ...counts, ...(await sender.outlook(counts.gets)), examples }
}

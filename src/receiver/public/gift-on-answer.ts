import type { Member } from '#core/list'
import { giftsOnAnswer } from '#core/mail'
import type { Ledger } from '../ledger'
import { linksOf } from '../mail'

/** The link to the gift for the answer page, where it is handed over there. */
export async function giftOnAnswer(
  ledger: Ledger,
  publicUrl: string,
  member: Member,
): Promise<{ address: string; words: string }[]> {
  const mail = ledger.published().mail(member.list)
  const gift = mail?.gift ?? null
  if (mail === null || gift === null || !giftsOnAnswer(mail) || member.status !== 'confirmed') return []
  if (gift.firstSoMany !== null && !(await ledger.isAmongFirst(member, gift.firstSoMany))) return []
  return [{ address: linksOf(await ledger.linkKeys(), publicUrl, member).gift, words: gift.label }]
}

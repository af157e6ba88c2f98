import type { SenderFinding } from '#core/api'
import { isAligned, readDkim } from '#core/sender'
import { dkimRecord } from '../dkim'
import type { Dkim } from '../settings'
import { type NameServers, NoNameServer, textsOf } from './name-servers'

/** Whether the key that mail is signed with is found by receivers, RFC 6376. */
export async function dkimFinding(
  { domain, dkim, isStrict }: { domain: string; dkim: Dkim | null; isStrict: boolean },
  servers: NameServers,
): Promise<SenderFinding> {
  const about = 'dkim'
  if (dkim === null)
    return {
      about,
      verdict: 'unknown',
      found: '',
      says: 'Ask Box does not sign your mail. Your mail service may do it; where it does not, make a key in the Mail room.',
      proposed: null,
    }
  if (!isAligned(dkim.domain, domain, isStrict))
    return {
      about,
      verdict: 'look',
      found: dkim.domain,
      says: `Mail is signed for ${dkim.domain}, which does not count for a sender at ${domain} (RFC 7489, section 3.1.1). Make a key for ${domain} in the Mail room.`,
      proposed: null,
    }
  const record = dkimRecord(dkim)
  let texts: string[]
  try {
    texts = await textsOf(record.name, servers)
  } catch (error) {
    if (!(error instanceof NoNameServer)) throw error
    return {
      about,
      verdict: 'unknown',
      found: '',
      says: 'No name server answered, so the key could not be read.',
      proposed: null,
    }
  }
  const found = texts.join(' | ')
  const look = (says: string): SenderFinding => ({
    about,
    verdict: 'look',
    found,
    says,
    proposed: { ...record, replaces: texts },
  })
  if (texts.length === 0)
    return look('Mail is signed, but the key is not where receivers look for it: they take it as unsigned.')
  if (texts.length > 1)
    return look('Several keys stand in one place; receivers may take any (RFC 6376, section 3.6.2.2).')
  const [there, ours] = [readDkim(texts[0]!), readDkim(record.value)]
  if (there.state === 'revoked') return look('The key is marked as taken back: signatures fail.')
  if (there.state === 'unusable' || ours.state !== 'key')
    return look('What stands there is no key for mail: signatures fail.')
  if (there.kind !== ours.kind || there.key !== ours.key)
    return look(
      'Another key stands there than the one that mail is signed with: signatures fail. Long keys are often cut off when they are pasted.',
    )
  if (there.isTest) return look('The key is marked as only being tried (t=y), so receivers treat mail as unsigned.')
  return { about, verdict: 'good', found, says: 'Mail is signed, and receivers find the key.', proposed: null }
}

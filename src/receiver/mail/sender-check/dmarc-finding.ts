import type { SenderFinding } from '#core/api'
import { type DmarcRecord, isDmarc, organizationalDomain, proposedDmarc, readDmarc } from '#core/sender'
import { type NameServers, NoNameServer, textsOf } from './name-servers'

/** What a domain asks of receivers. */
export interface DmarcAsked {
  /** Where it stands: at the domain itself, else at its organizational domain (RFC 7489, section 6.6.3). */
  at: string
  /** Records there; receivers take none where there are several. */
  texts: string[]
  record: DmarcRecord | null
  isKnown: boolean
}

/** RFC 7489, section 6.6.3. */
export async function dmarcAskedOf(domain: string, servers: NameServers): Promise<DmarcAsked> {
  try {
    for (const at of new Set([domain, organizationalDomain(domain)])) {
      const texts = (await textsOf(`_dmarc.${at}`, servers)).filter(isDmarc)
      if (texts.length > 0)
        return { at, texts, record: texts.length === 1 ? readDmarc(texts[0]!) : null, isKnown: true }
    }
    return { at: organizationalDomain(domain), texts: [], record: null, isKnown: true }
  } catch (error) {
    if (!(error instanceof NoNameServer)) throw error
    return { at: domain, texts: [], record: null, isKnown: false }
  }
}

const ofPolicy = {
  none: 'Mail that fails is still delivered; reports tell of it.',
  quarantine: 'Mail that fails goes to the spam.',
  reject: 'Mail that fails is refused.',
}

/** What receivers do with mail of a sender, by what counts for it: an aligned return path with SPF, or a signature. */
export function dmarcFinding(
  domain: string,
  { at, texts, record, isKnown }: DmarcAsked,
  counting: { path: SenderFinding; spf: SenderFinding; signature: SenderFinding },
): SenderFinding {
  const about = 'dmarc'
  const found = texts.join(' | ')
  const proposed = { name: `_dmarc.${at}`, value: proposedDmarc, replaces: texts }
  if (!isKnown)
    return {
      about,
      verdict: 'unknown',
      found,
      says: 'No name server answered, so DMARC could not be read.',
      proposed: null,
    }
  if (texts.length === 0)
    return {
      about,
      verdict: 'look',
      found,
      says: `${at} does not say what to do with mail that only pretends to be from it (DMARC). Large receivers ask for it.`,
      proposed,
    }
  if (texts.length > 1)
    return {
      about,
      verdict: 'look',
      found,
      says: 'There are several DMARC records; receivers then take none of them (RFC 7489, section 6.6.3). Keep one.',
      proposed: null,
    }
  if (record === null)
    return {
      about,
      verdict: 'look',
      found,
      says: 'The record has no policy (p=) that receivers understand, so it says nothing.',
      proposed,
    }
  const policy = at === domain ? record.policy : record.subdomainPolicy
  const { path, spf, signature } = counting
  const spfCounts = path.verdict === 'good' && spf.verdict === 'good'
  const isLost = policy !== 'none' && !spfCounts && signature.verdict === 'look' && spf.verdict !== 'unknown'
  return {
    about,
    verdict: isLost ? 'look' : 'good',
    found,
    says: `${at === domain ? '' : `Said by ${at} for all below it. `}${ofPolicy[policy]}${
      isLost ? ' Yours would: neither SPF nor a signature counts for it yet.' : ''
    }`,
    proposed: null,
  }
}

import { POPULAR_DOMAINS } from '@zootools/email-spell-checker'
import type { SenderFinding } from '#core/api'
import { parseEmail } from '#core/email'
import { domainOf } from '#core/mail'
import { isAligned } from '#core/sender'
import type { Dkim } from '../settings'
import { dkimFinding } from './dkim-finding'
import { type DmarcAsked, dmarcAskedOf, dmarcFinding } from './dmarc-finding'
import { type NameServers, remembering } from './name-servers'
import { spfFinding } from './spf-finding'

/** @property host of the server that mail goes through; null while there is none, or while nothing leaves the computer */
export interface SenderParts {
  sender: string
  bounce: string
  host: string | null
  dkim: Dkim | null
}

/** What receiving servers will make of a sender: by its address, and by what name servers say of its domain. */
export async function checkSender(
  { sender, bounce, host, dkim }: SenderParts,
  servers: NameServers,
): Promise<SenderFinding[]> {
  const parsed = parseEmail(sender)
  if (!parsed.ok) return []
  const domain = domainOf(parsed.email.compared)
  // The package’s list of popular domains is one of free mailboxes. Their records are nobody’s to change.
  if ((POPULAR_DOMAINS as readonly string[]).includes(domain))
    return [
      {
        about: 'free-mail',
        verdict: 'look',
        found: domain,
        says: 'This is a free mailbox. Its provider tells others to refuse mail in its name that comes from elsewhere. Use an address on your site’s own domain.',
        proposed: null,
      },
    ]
  const returnPath = parseEmail(bounce)
  const returnDomain = returnPath.ok ? domainOf(returnPath.email.compared) : domain
  const asked = remembering(servers)
  const dmarc = await dmarcAskedOf(domain, asked)
  const [spf, signature] = await Promise.all([
    spfFinding({ domain: returnDomain, host }, asked),
    dkimFinding({ domain, dkim, isStrict: dmarc.record?.isStrict.dkim ?? false }, asked),
  ])
  const path = returnPathFinding(returnDomain, domain, dmarc)
  return [path, spf, signature, dmarcFinding(domain, dmarc, { path, spf, signature })]
}

function returnPathFinding(returnDomain: string, domain: string, { record }: DmarcAsked): SenderFinding {
  const counts = isAligned(returnDomain, domain, record?.isStrict.spf ?? false)
  return {
    about: 'return-path',
    verdict: counts ? 'good' : 'look',
    found: returnDomain,
    says: counts
      ? 'Bounces go to the sender’s own domain, as DMARC wants it (RFC 7489, section 3.1.2).'
      : 'Bounces go to another domain than the sender’s, so SPF cannot count for DMARC (RFC 7489, section 3.1.2).',
    proposed: null,
  }
}

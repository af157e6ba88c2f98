import { POPULAR_DOMAINS } from '@zootools/email-spell-checker'
import type { SenderFinding } from '#core/api'
import { parseEmail } from '#core/email'
import { domainOf, isAligned } from '#core/mail'

/** TXT records of a name; rejects with `code` ENOTFOUND or ENODATA where there are none. */
export type ResolveTxt = (name: string) => Promise<string[][]>

/** What receiving servers will make of a sender: by its address, and by what name servers say of its domain. */
export async function checkSender(
  { sender, bounce, host }: { sender: string; bounce: string; host: string | null },
  resolveTxt: ResolveTxt,
): Promise<SenderFinding[]> {
  const parsed = parseEmail(sender)
  if (!parsed.ok) return []
  const domain = domainOf(parsed.email.compared)
  const returnPath = parseEmail(bounce)
  const returnDomain = returnPath.ok ? domainOf(returnPath.email.compared) : domain
  const findings: SenderFinding[] = []
  // The package’s list of popular domains is one of free mailboxes.
  if ((POPULAR_DOMAINS as readonly string[]).includes(domain))
    findings.push({
      about: 'free-mail',
      verdict: 'look',
      found: domain,
      says: 'This is a free mailbox. Its provider tells others to refuse mail in its name that comes from elsewhere. Use an address on your site’s own domain.',
    })
  const counts = isAligned(returnDomain, domain)
  findings.push({
    about: 'return-path',
    verdict: counts ? 'good' : 'look',
    found: returnDomain,
    says: counts
      ? 'Bounces go to the sender’s own domain, as DMARC wants it (RFC 7489, section 3.1.2).'
      : 'Bounces go to another domain than the sender’s, so SPF cannot count for DMARC (RFC 7489, section 3.1.2).',
  })
  findings.push(await spfOf(returnDomain, host, resolveTxt), await dmarcOf(domain, resolveTxt))
  return findings
}

async function recordsOf(name: string, prefix: string, resolveTxt: ResolveTxt): Promise<string[] | 'unknown'> {
  try {
    const all = (await resolveTxt(name)).map((strings) => strings.join(''))
    return all.filter((text) => text.toLowerCase().startsWith(prefix))
  } catch (error) {
    const { code } = error as { code?: string }
    return code === 'ENOTFOUND' || code === 'ENODATA' ? [] : 'unknown'
  }
}

/** RFC 7208. */
async function spfOf(domain: string, host: string | null, resolveTxt: ResolveTxt): Promise<SenderFinding> {
  const records = await recordsOf(domain, 'v=spf1', resolveTxt)
  const about = 'spf'
  if (records === 'unknown')
    return { about, verdict: 'unknown', found: '', says: 'No name server answered, so SPF could not be read.' }
  if (records.length === 0)
    return {
      about,
      verdict: 'look',
      found: '',
      says: `${domain} names no servers that may send for it (SPF). Some receivers then trust its mail less.`,
    }
  if (records.length > 1)
    return {
      about,
      verdict: 'look',
      found: records.join(' | '),
      says: 'There are several SPF records; receivers then take none of them (RFC 7208, section 4.5).',
    }
  const [record = ''] = records
  const all = /(?:^|\s)([-~?+]?)all\b/i.exec(record)?.[1]
  const others = {
    '-': 'All others are refused.',
    '~': 'All others are suspect.',
    '?': 'Nothing is said of others.',
    '+': 'Everybody else may send too, which protects nobody.',
    '': 'Everybody else may send too, which protects nobody.',
  }
  const includes = [...record.matchAll(/\binclude:(\S+)/gi)].map(([, name]) => name)
  const names =
    host !== null && (record.includes(host) || includes.some((name) => host.endsWith(name!.replace(/^_?spf\./, ''))))
  return {
    about,
    verdict: all === '+' || all === '' ? 'look' : 'good',
    found: record,
    says: `${includes.length > 0 ? `Servers of ${includes.join(', ')} may send for ${domain}. ` : ''}${all === undefined ? 'Nothing is said of others.' : others[all as keyof typeof others]}${host === null || names ? '' : ` Make sure that ${host} is among them.`}`,
  }
}

/** RFC 7489. */
async function dmarcOf(domain: string, resolveTxt: ResolveTxt): Promise<SenderFinding> {
  const records = await recordsOf(`_dmarc.${domain}`, 'v=dmarc1', resolveTxt)
  const about = 'dmarc'
  if (records === 'unknown')
    return { about, verdict: 'unknown', found: '', says: 'No name server answered, so DMARC could not be read.' }
  const [record] = records
  if (record === undefined)
    return {
      about,
      verdict: 'look',
      found: '',
      says: `${domain} does not say what to do with mail that only pretends to be from it (DMARC). Large receivers ask for it.`,
    }
  const policy = /\bp\s*=\s*(none|quarantine|reject)/i.exec(record)?.[1]?.toLowerCase()
  const words = {
    none: 'Mail that fails is still delivered; reports tell of it.',
    quarantine: 'Mail that fails goes to the spam: sign with DKIM, or send from servers that SPF names.',
    reject: 'Mail that fails is refused: sign with DKIM, or send from servers that SPF names.',
  }
  return {
    about,
    verdict: policy === undefined ? 'look' : 'good',
    found: record,
    says:
      policy === undefined ? 'The record has no policy (p=), so it says nothing.' : words[policy as keyof typeof words],
  }
}

import { readTagList } from './tag-list'

export const dmarcPolicies = ['none', 'quarantine', 'reject'] as const
export type DmarcPolicy = (typeof dmarcPolicies)[number]

/** What a domain asks of receivers, RFC 7489, section 6.3. */
export interface DmarcRecord {
  policy: DmarcPolicy
  /** Of sub-domains that have no record of their own. */
  subdomainPolicy: DmarcPolicy
  /** Share of failing mail that the policy is applied to, in percent. */
  percent: number
  /** Whether a signature, or a return path, counts only where its domain is exactly the sender’s. */
  isStrict: { dkim: boolean; spf: boolean }
  /** Where summaries go. */
  reportsTo: string[]
}

/** Section 6.6.3, step 2: what does not begin with this tag is another record. The value is case-sensitive (section 6.3). */
export const isDmarc = (text: string): boolean => /^\s*v\s*=\s*DMARC1\s*(?:;|$)/.test(text)

const asPolicy = (text: string | undefined): DmarcPolicy | null =>
  dmarcPolicies.find((policy) => policy === text?.toLowerCase()) ?? null

/** @returns null where receivers find no policy in it (section 6.6.3, step 6) */
export function readDmarc(text: string): DmarcRecord | null {
  const tags = readTagList(text)
  if (tags === null) return null
  const reportsTo = (tags.get('rua') ?? '')
    .split(',')
    .map((address) => address.trim())
    .filter((address) => /^mailto:[^\s@]+@[^\s@]+$/i.test(address))
  // Section 6.6.3: without a policy that is understood, one that asks for reports is taken as “none”.
  const isUnderstood = asPolicy(tags.get('p')) !== null && (!tags.has('sp') || asPolicy(tags.get('sp')) !== null)
  if (!isUnderstood && reportsTo.length === 0) return null
  const policy = isUnderstood ? asPolicy(tags.get('p'))! : 'none'
  const percent = tags.get('pct') ?? ''
  return {
    policy,
    subdomainPolicy: isUnderstood ? (asPolicy(tags.get('sp')) ?? policy) : 'none',
    percent: /^\d{1,3}$/.test(percent) && Number(percent) <= 100 ? Number(percent) : 100,
    isStrict: { dkim: tags.get('adkim')?.toLowerCase() === 's', spf: tags.get('aspf')?.toLowerCase() === 's' },
    reportsTo,
  }
}

/** What a mail server said to something that was sent to it, and at which point of the conversation. */
export interface MailReply {
  /** RFC 5321, section 4.2; null where nothing was answered. */
  code: number | null
  /** `recipient`: to RCPT TO. `content`: to the mail itself, after its end. `other`: to anything before. */
  stage: 'recipient' | 'content' | 'other'
  text: string
}

/**
 * Whose fault a refusal is:
 *
 * - `person`: the address takes no mail. Only this marks a member.
 * - `unclear`: it may be the address, or us. Counts as `person` only where the same server takes others meanwhile.
 * - `mail`: this mail is not taken as it is.
 * - `sender`: we are not taken, whoever it is to.
 * - `passing`: it may pass by itself.
 */
export type RefusalCause = 'person' | 'unclear' | 'mail' | 'sender' | 'passing'

/**
 * RFC 3463: bad mailbox (5.1.1), bad system (5.1.2), bad syntax (5.1.3), moved away (5.1.6), mailbox disabled (5.2.1);
 * RFC 7505: the domain takes no mail (5.1.10).
 */
const PERSON = new Set(['5.1.1', '5.1.2', '5.1.3', '5.1.6', '5.2.1', '5.1.10'])
/** RFC 3463: “other address status”, and no status at all. */
const SAYS_NOTHING = new Set(['5.0.0', '5.1.0'])
/** RFC 3463, X.2.2: a full mailbox “should be used as a persistent transient failure”. */
const FULL = '5.2.2'

/** Words of servers that give no status: of a full mailbox, or a quota of whoever (common practice, no published source). */
const OF_ROOM =
  /\b(?:over ?quota|quota|mailbox (?:is )?full|out of (?:storage|space)|storage (?:limit|exceeded)|insufficient (?:system )?storage)\b/i
/** The same of whoever sends: networks, lists of them, reputation, policy. */
const OF_SENDER =
  /\b(?:block ?list(?:ed)?|black ?list(?:ed)?|dnsbl|rbl|spam(?:haus|cop)?|reputation|policy|relay(?:ing)?|not permitted|access denied|rate limit(?:ed)?|too many|your (?:network|ip|host|server|domain|address)|client host|spf|dkim|dmarc|authenticat(?:ed?|ion))\b/i
/** The same of a mailbox that is not there. */
const OF_PERSON =
  /\b(?:(?:no such|unknown|invalid|non-?existent|inactive) (?:user|recipient|mailbox|address|account)|(?:user|recipient|mailbox|account) (?:is )?(?:unknown|not found|disabled|inactive)|does(?: not|n.t) exist)\b/i

export function causeOf({ code, stage, text }: MailReply): RefusalCause {
  if (code === null || code < 500) return 'passing'
  if (stage === 'content') return 'mail'
  if (stage === 'other') return 'sender'
  const status = enhancedStatus(text)
  if (status === null || SAYS_NOTHING.has(status)) {
    if (OF_ROOM.test(text)) return 'passing'
    if (OF_SENDER.test(text)) return 'sender'
    if (OF_PERSON.test(text)) return 'person'
    // RFC 5321, section 4.2.3: 552 is storage, 550 a mailbox that is not available for whatever reason.
    if (code === 552) return 'passing'
    return code === 550 ? 'unclear' : 'mail'
  }
  if (PERSON.has(status)) return 'person'
  if (status === FULL) return 'passing'
  // Too large for the mailbox (5.2.3), or content that is not taken (5.6).
  return status.startsWith('5.2.') || status.startsWith('5.6.') ? 'mail' : 'sender'
}

/** The status of RFC 3463 at the beginning of a reply's text, with or without the reply's code before it; null for none. */
export function enhancedStatus(text: string): string | null {
  return /^\s{0,9}(?:\d{3}[ -])?([245]\.\d{1,3}\.\d{1,3})(?![\d.])/.exec(text)?.[1] ?? null
}

/** Whether a kept reason shows that somebody was marked for what was no fault of the address. */
export function isWrongReason(reason: string): boolean {
  const code = Number(/^\s{0,9}(\d{3})(?!\d)/.exec(reason)?.[1] ?? 550)
  const cause = causeOf({ code, stage: 'recipient', text: reason })
  return cause !== 'person' && cause !== 'unclear'
}

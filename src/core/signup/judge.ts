import { parseEmail, type EmailAddress } from '#core/email'
import { honeypotName, type Version } from '#core/form'
import type { ArrivalId, MemberId } from '#core/ids'
import type { NewEntry, Verdict } from '#core/journal'
import type { Member } from '#core/list'
import type { Spot } from '#core/spot'
import { fieldErrors, type FieldError, type PostedValues } from './rules'

/** One sign-up, checked against the version that the visitor saw but not yet against the list. */
export interface SignUp {
  spot: Spot
  version: Version
  isBot: boolean
  email: EmailAddress | null
  /** By list column, empty answers left out. */
  values: Record<string, string>
  page: string
}

export type Judgement = { ok: true; signUp: SignUp } | { ok: false; errors: FieldError[] }

/**
 * First half of the verdict: is this an answer to this form at all? A filled honeypot is a bot's and is
 * never refused, so that the bot learns nothing.
 */
export function judge(spot: Spot, version: Version, posted: PostedValues, page: string): Judgement {
  const { fields } = version.content
  const parsed = parseEmail(posted.email ?? '')
  const email = parsed.ok ? parsed.email : null
  if ((posted[honeypotName(version.form)] ?? '') !== '') {
    return { ok: true, signUp: { spot, version, isBot: true, email, values: {}, page } }
  }
  const errors = fieldErrors(fields, posted)
  if (errors.length > 0) return { ok: false, errors }
  const values: Record<string, string> = {}
  for (const field of fields) {
    const value = oneLine(posted[field.key] ?? '')
    if (field.kind !== 'email' && value !== '') values[field.column] = value
  }
  return { ok: true, signUp: { spot, version, isBot: false, email, values, page } }
}

/** How the list stands towards a sign-up at the moment it is stored, and the ids to use if it is new. */
export interface Standing {
  member: Member | null
  newMember: MemberId
  newArrival: ArrivalId
  at: string
}

/** Second half: the verdict, given who is on the list already. Someone who left or was removed may join again. */
export function arrivalOf(signUp: SignUp, standing: Standing): NewEntry & { kind: 'arrival'; verdict: Verdict } {
  const { member } = standing
  const verdict: Verdict = signUp.isBot
    ? 'bot'
    : member !== null && (member.status === 'confirmed' || member.status === 'waiting')
      ? 'already-on-list'
      : 'joined'
  return {
    at: standing.at,
    kind: 'arrival',
    id: standing.newArrival,
    spot: signUp.spot.id,
    form: signUp.version.form,
    version: signUp.version.number,
    list: signUp.version.list,
    verdict,
    member: verdict === 'bot' ? null : (member?.id ?? standing.newMember),
    email: signUp.email,
    values: signUp.values,
    page: signUp.page,
  }
}

/** An answer to a one-line question is one line: line breaks, which could start a header elsewhere, become spaces. */
function oneLine(text: string): string {
  return text.replace(/[\r\n\v\f\u0085\u2028\u2029]+/g, ' ').trim()
}

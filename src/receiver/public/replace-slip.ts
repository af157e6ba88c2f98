import { meantAddress, parseEmail } from '#core/email'
import type { Arrival } from '#core/journal'
import type { Member } from '#core/list'
import type { SignUp } from '#core/signup'
import type { Ledger } from '../ledger'
import type { Causes } from '../limits'
import type { AnsweredSignUp } from '../mail'
import type { SignUpResult } from '../people'

/** How long another address may take the place of one that looks like a slip. */
const SLIP_MS = 30 * 60_000

/**
 * Gives somebody the address that was meant in place of one that looks like a slip: of a sign-up of this half hour, and no
 * other address than the one that was offered. They stay who they are; what was typed gets no mail any more.
 * Resolves with what came of it; null where it was not done. Pressed once more, the same is said again.
 */
export async function replaceSlip(
  { ledger, causes, now }: { ledger: Ledger; causes: Causes; now(): number },
  { at, answerCase }: AnsweredSignUp,
  member: Member,
  { instead, zone, visitor }: { instead: string; zone: string; visitor: string },
): Promise<SignUpResult | null> {
  const parsed = parseEmail(instead)
  const isFresh = now() - at < SLIP_MS && (answerCase === 'joined' || answerCase === 'confirm-first')
  if (!parsed.ok || !isFresh) return null
  const { email } = parsed
  const [last] = (await ledger.entriesAfter(member.revision - 1, null, 1))?.items ?? []
  const said = { member: member.id, repeated: true, isMailHeld: false }
  if (last?.kind === 'member-corrected' && last.member === member.id && member.email.compared === email.compared)
    return { ...said, verdict: last.verdict }
  if (meantAddress(member.email.typed) !== email.compared) return null
  // Somebody who acted since is not the one who just typed.
  const isFirst = last?.kind === 'arrival' && last.member === member.id && last.personal !== null
  const signUp = isFirst ? signUpOf(ledger, member, last) : null
  if (signUp === null) return null
  const cause = causes.take(visitor, email.compared)
  const corrected = await ledger.correct(member, email, cause)
  if (corrected === null) return null
  if (corrected !== 'taken') return { ...said, ...corrected, repeated: false }
  // Whoever has that address is told what anybody is told who signs up with it.
  return ledger.signUp({ ...signUp, email, whereabouts: { country: '', zone } }, `instead ${member.id}`, cause)
}

/** How somebody signed up, as it can be done once more; null where its spot or its version is gone. */
function signUpOf(ledger: Ledger, member: Member, { personal }: Arrival): Omit<SignUp, 'email' | 'whereabouts'> | null {
  const published = ledger.published()
  const { from } = member
  const spot = from === null ? undefined : published.spot(from.spot)
  const version = from === null ? undefined : published.version(from.form, from.version)
  if (spot === undefined || version === undefined || personal === null) return null
  const { values, consents = [], passed = {}, page, network, cameFrom = null } = personal
  return {
    ...{ spot, version, isBot: false, values, tags: [...(member.tags ?? [])], consents, passed, page },
    ...{ message: null, joins: true, cameFrom },
    ...(network !== undefined && { network }),
  }
}

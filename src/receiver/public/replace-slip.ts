import { meantAddress, parseEmail } from '#core/email'
import type { CommandId } from '#core/ids'
import type { Member } from '#core/list'
import type { SignUp } from '#core/signup'
import type { Ledger } from '../ledger'
import type { Causes } from '../limits'
import type { AnsweredSignUp } from '../mail'
import type { SignUpResult } from '../people'
import { newId } from '../random'

/** How long another address may take the place of one that looks like a slip. */
const SLIP_MS = 30 * 60_000

/**
 * Signs up the address that was meant in place of one that looks like a slip: of a sign-up of this half hour, and no other
 * address than the one that was offered. What was typed is off the list and gets no mail, not even that it is off.
 * Resolves with what came of it; null where it was not done.
 */
export async function replaceSlip(
  { ledger, causes, now }: { ledger: Ledger; causes: Causes; now(): number },
  { at, answerCase }: AnsweredSignUp,
  member: Member,
  { instead, zone, visitor }: { instead: string; zone: string; visitor: string },
): Promise<SignUpResult | null> {
  const parsed = parseEmail(instead)
  const isOffered = parsed.ok && meantAddress(member.email.typed) === parsed.email.compared
  const isFresh = now() - at < SLIP_MS && (answerCase === 'joined' || answerCase === 'confirm-first')
  if (!parsed.ok || !isOffered || !isFresh) return null
  const signUp = await firstSignUpOf(ledger, member)
  if (signUp === null) return null
  const { email } = parsed
  const meant: SignUp = { ...signUp, email, whereabouts: { country: '', zone } }
  const result = await ledger.signUp(meant, `instead ${member.id}`, causes.take(visitor, email.compared))
  const { list, revision } = member
  await ledger.carryOut([{ kind: 'remove-member', id: newId<CommandId>(), list, member: member.id, revision }])
  return result
}

/** How somebody signed up; null where they acted since, who are then not the one who just typed. */
async function firstSignUpOf(ledger: Ledger, member: Member): Promise<Omit<SignUp, 'email' | 'whereabouts'> | null> {
  const published = ledger.published()
  const { from } = member
  const spot = from === null ? undefined : published.spot(from.spot)
  const version = from === null ? undefined : published.version(from.form, from.version)
  if (spot === undefined || version === undefined) return null
  const [arrival] = (await ledger.entriesAfter(member.revision - 1, null, 1))?.items ?? []
  if (arrival?.kind !== 'arrival' || arrival.member !== member.id || arrival.personal === null) return null
  const { values, consents = [], passed = {}, page, network, cameFrom = null } = arrival.personal
  return {
    ...{ spot, version, isBot: false, values, tags: [...(member.tags ?? [])], consents, passed, page },
    ...{ message: null, joins: true, cameFrom },
    ...(network !== undefined && { network }),
  }
}

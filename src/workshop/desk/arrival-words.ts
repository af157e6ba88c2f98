import type { Arrival, Verdict } from '#core/journal'
import type { MemberStatus } from '#core/list'

/** How far each came on the line when they signed up, and as what. */
const verdicts: Record<Verdict, string> = {
  joined: 'List: joined',
  'confirm-first': 'Mail: asked to confirm',
  'already-on-list': 'Answer: already on the list',
  'already-waiting': 'Mail: asked to confirm again',
  bot: 'Form: held back as a bot',
}
const stopped: Record<NonNullable<Arrival['stopped']>, string> = {
  'too-fast': 'Form: held back, filled in too fast',
  'throw-away': 'Form: held back, a throw-away address',
}

/** Where somebody is who was to confirm. */
const asked: Record<MemberStatus, string> = {
  waiting: '',
  confirmed: 'List: confirmed',
  left: 'List: confirmed, left since',
  removed: 'List: taken off since, or never confirmed',
  bounced: 'Mail: came back',
}
/** Where somebody is who was on the list at once. */
const joined: Record<MemberStatus, string> = {
  waiting: 'Mail: has to confirm',
  confirmed: '',
  left: 'List: left since',
  removed: 'List: taken off since',
  bounced: 'Mail: came back',
}

/**
 * Where somebody is now.
 *
 * @param status as it is by now; missing while it is not known
 */
export function standingWords({ verdict, stopped: why, personal }: Arrival, status: MemberStatus | undefined): string {
  if (why !== undefined) return stopped[why]
  if (personal === null) return 'forgotten since'
  if (verdict === 'bot' || status === undefined) return verdicts[verdict]
  const now = verdict === 'confirm-first' || verdict === 'already-waiting' ? asked[status] : joined[status]
  return now === '' ? verdicts[verdict] : now
}

import { MAX_SEEN_LENGTH, type Proof, type RehearsalCase, type Step } from '#core/proof'
import { again } from './case-again'
import { bot } from './case-bot'
import { phone, scriptsOff } from './case-browser'
import { closed } from './case-closed'
import { double } from './case-double'
import { elsewhere } from './case-elsewhere'
import { empty } from './case-empty'
import { firefox } from './case-firefox'
import { first } from './case-first'
import { mail } from './case-mail'
import { message } from './case-message'
import { names } from './case-names'
import { beginSlowly, slow, viewers } from './case-viewers'
import { wrong } from './case-wrong'
import { cleared, settled } from './cleared'
import { directly } from './direct'
import { lookAtPage } from './page'
import type { Ports } from './ports'
import type { CaseSteps } from './step'
import { wordings } from './case-wordings'
import { type CaseContext, wayOf } from './way'
import type { RehearsalSubject } from './subject'

/**
 * A made-up person goes the whole way of one spot, case by case: page, form, answer, list. Each step is told as soon as it
 * is known; the first that fails ends the rehearsal.
 *
 * @param cases those that are on, besides the look at the page
 * @param tell called with every step; returning false stops
 * @returns how it went as a whole; where nobody could try to sign up, that nothing was tried
 */
export async function rehearse(
  subject: RehearsalSubject,
  cases: readonly RehearsalCase[],
  ports: Ports,
  tell: (step: Step) => boolean,
): Promise<Proof['verdict']> {
  let since = ports.now()
  let outcome: Proof['verdict'] = cases.some(isSignUp) ? 'not-tried' : 'passed'
  const say = (step: Omit<Step, 'ms'>): boolean => {
    const now = ports.now()
    const goesOn = tell({ ...step, seen: cut(step.seen), ms: Math.max(0, Math.round(now - since)) })
    since = now
    if (step.verdict === 'failed') outcome = 'failed'
    else if (!goesOn) outcome = 'stopped'
    else if (step.verdict === 'passed' && isSignUp(step.case)) outcome = 'passed'
    return goesOn && step.verdict !== 'failed'
  }

  if (subject.spot.state === 'live' && subject.versions.at(-1)?.content.direct !== undefined) {
    for await (const step of directly(subject, ports)) if (!say(step)) break
    return outcome
  }
  const look = await lookAtPage(subject, ports)
  for (const step of look.steps) if (!say(step)) return outcome
  const version = subject.versions.at(-1)
  const [doubt] = look.doubts
  if (look.standing === null || version === undefined) {
    if (doubt !== undefined) say(doubt)
    return outcome
  }
  const way = { ...wayOf(subject, version, look.standing, ports), hasFirst: cases.includes('first') }
  // Where the form is filled in at both sizes anyhow, that tells.
  const isTriedAnyhow = ports.browser?.kind === 'visits' && cases.includes('first') && cases.includes('phone')
  if (doubt !== undefined && !isTriedAnyhow && !say(await cleared(way, doubt))) return outcome
  const slowly = cases.includes('slow') ? beginSlowly(way) : null
  slowly?.catch(() => {})
  const tries = { ...quickly, slow: (of: CaseContext) => slow(of, slowly!) }
  for (const one of cases) for await (const step of tries[one](way)) if (!say({ case: one, ...step })) return outcome
  if (doubt !== undefined && isTriedAnyhow && outcome === 'passed') say(settled(doubt))
  return outcome
}

/** Without one of these a rehearsal proves no sign-up. */
function isSignUp(one: Step['case']): boolean {
  return one !== 'page' && one !== 'closed' && one !== 'elsewhere'
}

/** Words of an answer may be longer than a proof keeps. */
function cut(text: string): string {
  return text.length > MAX_SEEN_LENGTH ? `${text.slice(0, MAX_SEEN_LENGTH - 2)} …` : text
}

const quickly: Record<Exclude<RehearsalCase, 'slow'>, (way: CaseContext) => CaseSteps> = {
  first,
  again,
  wrong,
  empty,
  names,
  bot,
  double,
  message,
  mail,
  closed,
  elsewhere,
  'scripts-off': scriptsOff,
  phone,
  viewers,
  firefox,
  wordings,
}

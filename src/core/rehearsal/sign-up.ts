import { answerTo } from '#core/form'
import {
  type Evidence,
  evidence,
  type Failure,
  type ProofLook,
  type PersonAnswers,
  type Shown,
  type Step,
} from '#core/proof'
import { isSubmitButton, type Submission, submissionOf } from '#core/submission'
import { buttonOf, type Fill, filledIn, fillsOf } from '#core/usable'
import { lookOf, obstacleMet, refusalOf, shownTo } from './visit-findings'
import { framingProblem } from './framing'
import type { PageStanding } from './page'
import { type AnsweredPage, type As, type Browsed, NoAnswer, type Visited, type VisitWish } from './ports'
import { shownOn } from './shown'
import { type CaseStep, failed, notTried, pictured } from './step'
import { visitOf } from './visit'
import { DESK_WIDTH, type CaseContext, formMet } from './way'

/** What came of one try to sign up. */
export type Tried =
  | { isTried: true; shown: Shown; evidence: Evidence[]; remarks: readonly string[]; look?: ProofLook | null }
  | { isTried: false; reason: string }
  /** Something kept the visitor from it. */
  | { isTried: false; reason: string; met: { station: Step['station']; failure: Failure }; look: ProofLook | null }

/** What kept somebody from trying, or why it was not tried. */
export const notDone = (station: Step['station'], what: string, tried: Tried & { isTried: false }): CaseStep =>
  'met' in tried
    ? pictured(failed(tried.met.station, what, tried.met.failure), tried.look)
    : notTried(station, what, tried.reason)

/** One try, by whichever way the form stands there. */
export async function signUp(
  way: CaseContext,
  answers: PersonAnswers,
  { presses = 1, isBot = false, as }: { presses?: 1 | 2; isBot?: boolean; as?: As } = {},
): Promise<Tried> {
  const { standing, ports, subject } = way
  const fills = fillsOf(way.content, answers)
  if (standing.through === 'script') {
    if (ports.browser === null) return { isTried: false, reason: NEEDS_BROWSER }
    if (ports.browser.kind === 'visits') return byHand({ way, viewer: 'desk', fills, presses, wasLookedAt: true })
    const forbidden = framingProblem(standing.sitePage, ports.browser.origin)
    if (forbidden !== null) return { isTried: false, reason: forbidden }
    const seen = await ports.browser.withScripts({
      address: standing.sitePage.address,
      spot: subject.spot.id,
      width: DESK_WIDTH,
      fills,
      presses,
    })
    if (!seen.isTried) return seen
    const shown = seen.shown ?? { ...NOTHING, heading: seen.isThere ? 'no answer' : 'no form on the page' }
    // An own page is where the script leads; it is looked at as it is.
    return {
      isTried: true,
      shown: await arrivedAt(way, shown),
      remarks: [],
      evidence: [evidence('response', JSON.stringify(shown))],
    }
  }
  const submission = submissionFor(way, standing, fills, isBot)
  if (submission === null)
    return { isTried: false, reason: 'The page’s encoding or the form’s address is none that can be sent here.' }
  const request = evidence('request', requestText(submission))
  try {
    const answer =
      presses === 1
        ? await ports.send(submission, as)
        : (await Promise.all([ports.send(submission, as), ports.send(submission, as)]))[1]!
    return {
      isTried: true,
      shown: shownOn(answer.html, answer.status, answer.address),
      remarks: [],
      evidence: [request, evidence('response', responseText(answer))],
    }
  } catch (error) {
    if (!(error instanceof NoAnswer)) throw error
    return { isTried: true, shown: { ...NOTHING, message: error.message }, remarks: [], evidence: [request] }
  }
}

/** One try by a hand in a browser. */
export async function byHand({
  way,
  viewer,
  fills,
  presses,
  wasLookedAt = false,
  takesGift = false,
}: {
  way: CaseContext
  viewer: VisitWish['viewer']
  fills: readonly Fill[]
  presses: 1 | 2
  wasLookedAt?: boolean
  takesGift?: boolean
}): Promise<Tried & { visited?: Visited }> {
  const seen = await visit(way, { viewer, fills, presses, wasLookedAt, ...(takesGift && { takesGift }) })
  if (!seen.isTried) return seen
  const met = obstacleMet(seen, formMet(way))
  const look = lookOf(seen, viewer)
  if (met !== null) return { isTried: false, reason: met.failure.happened, met, visited: seen, look }
  const shown = shownTo(seen, way.standing.sitePage.address) ?? { ...NOTHING, heading: 'no answer' }
  const more = [...seen.remarks, ...seen.complaints].join('\n')
  return {
    isTried: true,
    shown,
    remarks: seen.remarks,
    look,
    evidence: [
      evidence('response', JSON.stringify(shown, null, 1)),
      ...(more === '' ? [] : [evidence('response', more)]),
    ],
    visited: seen,
  }
}

export function visit(
  way: CaseContext,
  wish: Pick<VisitWish, 'viewer' | 'fills' | 'presses' | 'isSlow' | 'wasLookedAt' | 'sweeps' | 'takesGift'>,
  address = way.standing.sitePage.address,
): Promise<Browsed<Visited>> {
  const { browser } = way.ports
  if (browser?.kind !== 'visits') return Promise.resolve({ isTried: false, reason: NEEDS_BROWSER })
  const { spot, receiver } = way.subject
  return browser
    .visit(
      visitOf(spot, receiver, way.content, {
        ...wish,
        address,
        ...(way.wording !== undefined && { wording: way.wording }),
      }),
    )
    .then((seen) => {
      const refusal = seen.isTried ? refusalOf(seen) : null
      return refusal === null ? seen : { isTried: false, reason: refusal }
    })
}

async function arrivedAt(way: CaseContext, shown: Shown): Promise<Shown> {
  const joined = answerTo(way.content, way.outcome.joins)
  if (joined.show !== 'address' || !shown.address.startsWith('http') || shown.heading !== '') return shown
  try {
    const page = await way.ports.fetch(shown.address)
    return shownOn(page.html, page.status, page.address)
  } catch (error) {
    if (!(error instanceof NoAnswer)) throw error
    return { ...NOTHING, message: error.message }
  }
}

function submissionFor(
  way: CaseContext,
  { form, page, fetched }: Extract<PageStanding, { through: 'markup' }>,
  fills: readonly Fill[],
  isBot: boolean,
): Submission | null {
  const { touches } = filledIn(form, fills)
  if (isBot)
    for (const control of form.controls)
      if (!touches.has(control) && !isSubmitButton(control) && isTextLike(control))
        touches.set(control, { value: 'https://bot.example' })
  const button = buttonOf(form, `${way.subject.receiver}/join/${way.subject.spot.id}`)
  return submissionOf(form, button, touches, {
    page,
    address: fetched.address,
    encoding: fetched.encoding,
    boundary: `----askbox${way.ports.unique()}`,
  })
}

export const NEEDS_BROWSER = 'It needs a browser: install one beside the receiver, or rehearse from the workshop.'
const NOTHING: Shown = { status: 0, address: '', heading: '', message: '', errors: {}, kept: {} }

function isTextLike({
  tagName,
  attrs,
}: {
  tagName: string
  attrs: readonly { name: string; value: string }[]
}): boolean {
  const type = attrs.find(({ name }) => name === 'type')?.value.toLowerCase() ?? 'text'
  return tagName === 'textarea' || (tagName === 'input' && ['text', 'search', 'url', 'tel'].includes(type))
}

function requestText({ method, address, contentType, body }: Submission): string {
  return `${method.toUpperCase()} ${address}\nContent-Type: ${contentType}\n\n${new TextDecoder().decode(body)}`
}

function responseText({ status, address, location, html }: AnsweredPage): string {
  return `${location === null ? '' : `303 to ${location}\n`}${status} ${address}\n\n${html.slice(0, 3_000)}`
}

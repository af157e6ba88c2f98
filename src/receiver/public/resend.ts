import { type Context, Hono } from 'hono'
import type { Version } from '#core/form'
import { puzzlePage } from '#core/render'
import type { Spot } from '#core/spot'
import { sendProblem } from '../http/problem'
import { readSmallForm } from '../http/read-body'
import { visitorAddress } from '../http/visitor-address'
import type { Ledger } from '../ledger'
import type { Causes } from '../limits'
import { type AnsweredSignUp, signUpIn, signUpToken } from '../mail'
import { sendPage } from '../pages'
import type { Puzzles } from '../puzzle'
import type { Settings } from '../settings'
import type { MailOutcome } from './answer'
import { ourAnswerPage, outcomeOf } from './join'
import type { LinkHolder } from './link-holder'
import type { MailPages } from './mail-pages'
import { replaceSlip } from './replace-slip'
import { wayBack } from './way-back'

export interface ResendParts {
  ledger: Ledger
  settings: Settings
  puzzles: Puzzles
  causes: Causes
  now(): number
}

/** Somebody who asks, and for what. */
interface Asked {
  spot: Spot
  version: Version
  named: LinkHolder
  signUp: AnsweredSignUp
  token: string
  visitor: string
  body: Map<string, string>
}

/**
 * `POST /resend/:spot`: the mail of a sign-up once more, or to the address that was meant. Whoever pressed it on a page is
 * led to the answer's page (303), which says what came of it; our script is told.
 */
export function resendRoutes(parts: ResendParts, { whoIs, nothing }: MailPages): Hono {
  const { ledger, settings, causes } = parts
  const routes = new Hono()
  routes.post('/resend/:spot', async (c) => {
    const spot = ledger.published().spot(c.req.param('spot'))
    const latest = spot && ledger.published().latestVersion(spot.form)
    if (spot === undefined || latest === undefined) return nothing(c)
    const body = await readSmallForm(c)
    const token = body.get('askbox-again') ?? ''
    const signUp = signUpIn(await ledger.linkKeys(), token, spot.id)
    const named = signUp === null ? null : await whoIs(signUp.member)
    // Our script asks from the page that the form stands on.
    c.header('Access-Control-Allow-Origin', '*')
    // The same is said of everybody else's token as of one's own, whether anything is sent or not.
    if (signUp === null || named === null) return say(c, { spot, version: latest, token }, 'again')
    const version = ledger.published().version(spot.form, named.member.from?.version ?? 0) ?? latest
    const asked = { spot, version, named, signUp, token, body, visitor: visitorAddress(c, settings.trustedProxies) }
    if (body.has('askbox-instead')) return replaced(c, parts, asked)
    const { isFlood } = causes.take(asked.visitor, named.member.email.compared)
    const isHeld = signUp.isMailHeld || isFlood
    if (!isHeld && (await named.people.sendAgain(signUp.member)) !== 'held') return say(c, asked, 'again')
    return withPuzzle(c, parts, asked)
  })
  return routes
}

const wantsPage = (c: Context) => /\btext\/html\b/i.test(c.req.header('Accept') ?? '')

function say(
  c: Context,
  { spot, version, token, signUp }: Pick<Asked, 'spot' | 'version' | 'token'> & Partial<Pick<Asked, 'signUp'>>,
  outcome: MailOutcome,
): Response {
  const answerCase = signUp?.answerCase ?? 'confirm-first'
  return wantsPage(c)
    ? c.redirect(ourAnswerPage(spot, version, answerCase, { again: token, then: outcome }), 303)
    : c.json({ mail: outcome }, outcome === 'again' ? 200 : 429)
}

/** The address that was meant takes the place of the one that was typed. */
async function replaced(c: Context, parts: ResendParts, asked: Asked): Promise<Response> {
  const { spot, version, named, signUp, body, visitor } = asked
  const { ledger, now } = parts
  const zone = (body.get('askbox-zone') ?? '').slice(0, 60)
  const result = await replaceSlip(parts, signUp, named.member, {
    ...{ instead: body.get('askbox-instead') ?? '', zone, visitor },
  })
  if (!wantsPage(c))
    return result === null
      ? sendProblem(c, { status: 422, title: 'Not taken', detail: 'This address cannot take its place any more.' })
      : c.json({ outcome: outcomeOf(signUp.answerCase) }, 200)
  if (result === null) return c.redirect(ourAnswerPage(spot, version, 'not-possible', {}), 303)
  const { member, verdict, isMailHeld } = result
  // Where nobody is to learn who is on a list, nobody does by a slip.
  const isDiscreet = ledger.published().mail(version.list)?.isDiscreet === true
  const answerCase = isDiscreet || verdict === 'bot' ? signUp.answerCase : verdict
  const again = signUpToken(await ledger.linkKeys(), { member, spot: spot.id, answerCase, isMailHeld, at: now() })
  return c.redirect(ourAnswerPage(spot, version, answerCase, { again }), 303)
}

/** Beyond the share of an inbox, or of a flood: for who is there to solve a puzzle, and only one mail. */
async function withPuzzle(c: Context, parts: ResendParts, asked: Asked): Promise<Response> {
  const { ledger, settings, puzzles } = parts
  const { spot, version, named, token, body } = asked
  const solution = body.get('askbox-puzzle')
  if (solution === undefined) {
    const page = puzzlePage(version.content, {
      action: `${settings.publicUrl}/resend/${spot.id}`,
      script: `${settings.publicUrl}/puzzle.js`,
      puzzle: JSON.stringify(await puzzles.make(spot.id)),
      values: [['askbox-again', token]],
      wayBack: wayBack(ledger, spot, c),
    })
    return sendPage(c, settings.publicUrl, page, { posts: 'to-us', status: 429, withScript: true })
  }
  const isSolved = await puzzles.isSolved(solution, spot.id, `resend ${token}`)
  return isSolved && (await named.people.sendAgain(named.member.id, true)) !== 'held'
    ? say(c, asked, 'again')
    : say(c, asked, 'tomorrow')
}

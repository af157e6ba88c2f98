import { type Context, Hono } from 'hono'
import { answerTo, type Version } from '#core/form'
import { answerPage, puzzlePage } from '#core/render'

import type { Spot } from '#core/spot'
import { answerTextsOf } from '#core/texts'
import { sendProblem } from '../http/problem'
import { readSmallForm } from '../http/read-body'
import { visitorAddress } from '../http/visitor-address'
import type { Ledger } from '../ledger'
import type { Causes } from '../limits'
import { signUpIn } from '../mail'
import { sendPage } from '../pages'
import type { Puzzles } from '../puzzle'
import type { Settings } from '../settings'
import { outcomeOf } from './join'
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

/** `POST /resend/:spot`: the mail of a sign-up once more, or to the address that was meant. */
export function resendRoutes(parts: ResendParts, { linkKey, whoIs, nothing }: MailPages): Hono {
  const { ledger, settings, causes } = parts
  const routes = new Hono()
  routes.post('/resend/:spot', async (c) => {
    const spot = ledger.published().spot(c.req.param('spot'))
    const version = spot && ledger.published().latestVersion(spot.form)
    if (spot === undefined || version === undefined) return nothing(c)
    const body = await readSmallForm(c)
    const token = body.get('askbox-again') ?? ''
    const signUp = signUpIn(linkKey(), token, spot.id)
    const named = signUp === null ? null : await whoIs(signUp.member)
    // Our script asks from the page that the form stands on.
    c.header('Access-Control-Allow-Origin', '*')
    const { sentAgain } = answerTextsOf(version.content.language)
    const say = sayer(c, parts, spot, version)
    // The same is said of everybody else's token as of one's own, whether anything is sent or not.
    if (signUp === null || named === null) return say(sentAgain)
    const visitor = visitorAddress(c, settings.trustedProxies)
    const instead = body.get('askbox-instead')
    if (instead !== null && instead !== undefined) {
      const meant = { instead, zone: (body.get('askbox-zone') ?? '').slice(0, 60), visitor }
      return (await replaceSlip(parts, signUp, named.member, meant))
        ? c.json({ outcome: outcomeOf(signUp.answerCase) }, 200)
        : sendProblem(c, { status: 422, title: 'Not taken', detail: 'This address cannot take its place any more.' })
    }
    const { isFlood } = causes.take(visitor, named.member.email.compared)
    const isHeld = signUp.isMailHeld || isFlood
    if (!isHeld && (await named.people.sendAgain(signUp.member)) !== 'held') return say(sentAgain)
    return withPuzzle(c, parts, version, { spot, named, token, solution: body.get('askbox-puzzle') ?? null })
  })
  return routes
}

function sayer(c: Context, { ledger, settings }: ResendParts, spot: Spot, { content }: Version) {
  const { heading } = answerTo(content, 'confirm-first')
  const back = wayBack(ledger, spot)
  return (message: string, status: 200 | 429 = 200) =>
    sendPage(c, settings.publicUrl, answerPage({ heading, message }, content, back), { status })
}

/** Beyond the share of an inbox, or of a flood: for who is there to solve a puzzle, and only one mail. */
async function withPuzzle(
  c: Context,
  parts: ResendParts,
  version: Version,
  asked: { spot: Spot; named: LinkHolder; token: string; solution: string | null },
): Promise<Response> {
  const { ledger, settings, puzzles } = parts
  const { spot, named, token, solution } = asked
  if (solution === null) {
    const page = puzzlePage(version.content, {
      action: `${settings.publicUrl}/resend/${spot.id}`,
      script: `${settings.publicUrl}/puzzle.js`,
      puzzle: JSON.stringify(await puzzles.make(spot.id)),
      values: [['askbox-again', token]],
      wayBack: wayBack(ledger, spot),
    })
    return sendPage(c, settings.publicUrl, page, { status: 429, formTargets: [settings.publicUrl], withScript: true })
  }
  const say = sayer(c, parts, spot, version)
  const { sentAgain, mailHeldToday } = answerTextsOf(version.content.language)
  const isSolved = await puzzles.isSolved(solution, spot.id, `resend ${token}`)
  return isSolved && (await named.people.sendAgain(named.member.id, true)) !== 'held'
    ? say(sentAgain)
    : say(mailHeldToday, 429)
}

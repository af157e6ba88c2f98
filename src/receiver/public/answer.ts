import { type Context, Hono } from 'hono'
import { meantAddress } from '#core/email'
import { pageAddress } from '#core/embed'
import { type AnswerCase, answerCases, answerTo, ownPageOf, type Version } from '#core/form'
import type { Member } from '#core/list'
import { answerPage, noticePage, signOf } from '#core/render'
import type { Spot } from '#core/spot'
import { filledIn, answerTextsOf, textsOf } from '#core/texts'
import { type AnsweredSignUp, signUpIn } from '../mail'
import { sendPage } from '../pages'
import type { Rehearsals } from '../rehearsals'
import type { Settings } from '../settings'
import type { Ledger } from '../ledger'
import { frameTells } from './frame-tells'
import { outcomeOf } from './join'
import { holderOf } from './link-holder'
import { wayBack } from './way-back'
import { giftOnAnswer } from './gift-on-answer'

/** How long an answer's page is of who has just signed up: a gift is handed over there, and the press for another mail stands there. */
const JUST_MS = 3_600_000

/**
 * `GET /answer/:spot/:case`: the page where a form post is sent on, in the version that the visitor saw. What it says of
 * one sign-up comes from what that sign-up was, signed; without that it shows the case's words and nothing else.
 */
export function answerRoutes(ledger: Ledger, settings: Settings, rehearsals: Rehearsals, now: () => number): Hono {
  return new Hono().get('/answer/:spot/:case', async (c) => {
    const asked = askedAnswer(c, ledger)
    if (asked === null) {
      const notice = noticePage('Nothing here', 'There is no such page. The address may be incomplete.')
      return sendPage(c, settings.publicUrl, notice, { status: 404 })
    }
    const { spot, version, answerCase, signUp } = asked
    const { content } = version
    const answer = answerTo(content, answerCase)
    const isHeld = signUp?.isMailHeld ?? false
    const own = ownPageOf(answer, () => '')
    if (own !== null && !isHeld) return c.redirect(own, 303)
    const isJust = signUp !== null && now() - signUp.at < JUST_MS
    const holder = isJust ? await holderOf(signUp.member, ledger, rehearsals) : null
    // Where a form in a frame was sent, its answer comes into the frame.
    const isInFrame = c.req.header('Sec-Fetch-Dest') === 'iframe'
    const tells = isInFrame ? frameTells(ledger, settings.publicUrl, spot, outcomeOf(answerCase)) : null
    const texts = answerTextsOf(content.language)
    const waits = answerCase === 'confirm-first' || answerCase === 'already-waiting'
    const again = {
      action: `/resend/${spot.id}`,
      words: isHeld ? texts.sendNow : texts.sendAgain,
      values: { 'askbox-again': c.req.query('again') ?? '' },
      isMain: isHeld,
    }
    const page = answerPage(isHeld ? { ...answer, message: texts.mailHeld } : answer, content, wayBack(ledger, spot), {
      tells,
      sign: isHeld ? null : signOf(answerCase),
      press: (waits || isHeld) && isJust ? again : null,
      links: holder === null ? [] : await linksFor(holder.member, asked, ledger, settings),
    })
    return sendPage(c, settings.publicUrl, page, { withScript: tells !== null })
  })
}

interface AskedAnswer {
  spot: Spot
  version: Version
  answerCase: AnswerCase
  /** What is answered, where its mark came along; null for the case's words alone. */
  signUp: AnsweredSignUp | null
}

function askedAnswer(c: Context, ledger: Ledger): AskedAnswer | null {
  const published = ledger.published()
  const spot = published.spot(c.req.param('spot') ?? '')
  if (spot === undefined) return null
  const signUp = signUpIn(published.preferences()?.linkKey, c.req.query('again') ?? '', spot.id)
  const answerCase = signUp?.answerCase ?? answerCases.find((one) => one === c.req.param('case'))
  const version = published.version(spot.form, Number(c.req.query('version'))) ?? published.latestVersion(spot.form)
  return version === undefined || answerCase === undefined ? null : { spot, version, answerCase, signUp }
}

/** What somebody who has just signed up is offered: the address that they may have meant, and the gift. */
async function linksFor(
  member: Member,
  { spot, version: { content }, answerCase }: AskedAnswer,
  ledger: Ledger,
  { publicUrl }: Settings,
): Promise<{ address: string; words: string; isQuiet?: boolean }[]> {
  const mayBeSlip = answerCase === 'joined' || answerCase === 'confirm-first'
  const meant = mayBeSlip ? meantAddress(member.email.typed) : null
  const { didYouMean } = textsOf(content.language, content.texts)
  const address = pageAddress(publicUrl, spot.slug ?? spot.id)
  const linkKey = ledger.published().preferences()?.linkKey
  return [
    ...(meant === null ? [] : [{ address, words: filledIn(didYouMean, { address: meant }), isQuiet: true }]),
    ...(answerCase === 'joined' ? await giftOnAnswer(ledger, publicUrl, member, linkKey) : []),
  ]
}

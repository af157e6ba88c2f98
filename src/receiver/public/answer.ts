import { type Context, Hono } from 'hono'
import { meantAddress } from '#core/email'
import { type AnswerCase, answerCases, answerTo, ourAnswer, ownPageOf, type Version } from '#core/form'
import type { Member } from '#core/list'
import { answerPage, noticePage, type Press, signOf } from '#core/render'
import type { Spot } from '#core/spot'
import { filledIn, answerTextsOf, textsOf } from '#core/texts'
import { type AnsweredSignUp, signUpIn } from '../mail'
import { sendPage } from '../pages'
import type { Rehearsals } from '../rehearsals'
import type { LinkKeys } from '../secrets'
import type { Settings } from '../settings'
import type { Ledger } from '../ledger'
import { frameTells } from './frame-tells'
import { outcomeOf } from './join'
import { holderOf } from './link-holder'
import { isInFrame, passedOn, sendOnward } from './onward'
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
    const keys = await ledger.linkKeys()
    const asked = askedAnswer(c, ledger, keys)
    if (asked === null) {
      const notice = noticePage('Nothing here', 'There is no such page. The address may be incomplete.')
      return sendPage(c, settings.publicUrl, notice, { posts: 'nothing', status: 404 })
    }
    const { spot, version, answerCase, signUp } = asked
    const { content } = version
    const answer = answerTo(content, answerCase)
    const isHeld = signUp?.isMailHeld ?? false
    // Where a form in a frame was sent, its answer comes into the frame.
    const tells = isInFrame(c) ? frameTells(ledger, settings.publicUrl, spot, outcomeOf(answerCase)) : null
    const said = saidOfMail(c, content)
    const sealed = c.req.query('with')
    const passed = (sealed && passedOn(keys, spot.id).open(sealed, now())) || {}
    const own = ownPageOf(answer, (key) => (Object.hasOwn(passed, key) ? (passed[key] ?? '') : ''))
    if (own !== null && !isHeld && said === null)
      return sendOnward(c, settings.publicUrl, own, {
        said: ourAnswer(answerCase, content.language, false),
        content,
        sign: signOf(answerCase),
        tells,
      })
    const isJust = signUp !== null && now() - signUp.at < JUST_MS
    const holder = isJust ? await holderOf(signUp.member, ledger, rehearsals) : null
    const texts = answerTextsOf(content.language)
    const waits = answerCase === 'confirm-first' || answerCase === 'already-waiting'
    const again = {
      action: `/resend/${spot.id}`,
      words: isHeld ? texts.sendNow : texts.sendAgain,
      values: { 'askbox-again': c.req.query('again') ?? '' },
      isMain: isHeld,
    }
    const heading = own === null ? answer.heading : ourAnswer(answerCase, content.language, false).heading
    const message = said ?? (isHeld ? texts.mailHeld : answer.message)
    const page = answerPage({ heading, message }, content, wayBack(ledger, spot, c), {
      tells,
      isInFrame: isInFrame(c),
      sign: isHeld || said !== null ? null : signOf(answerCase),
      presses: [
        ...(holder === null || said !== null ? [] : slipPress(holder.member, asked, c.req.query('again') ?? '')),
        ...((waits || isHeld) && isJust && said === null ? [again] : []),
      ],
      links:
        holder === null || answerCase !== 'joined' ? [] : await giftOnAnswer(ledger, settings.publicUrl, holder.member),
    })
    return sendPage(c, settings.publicUrl, page, { posts: 'to-us', withScript: tells !== null })
  })
}

/** Outcome of asking for a mail once more, which its press leads back here with. */
export const mailOutcomes = { again: 'sentAgain', tomorrow: 'mailHeldToday' } as const
export type MailOutcome = keyof typeof mailOutcomes

function saidOfMail(c: Context, { language }: Version['content']): string | null {
  const asked = c.req.query('then') ?? ''
  return Object.hasOwn(mailOutcomes, asked) ? answerTextsOf(language)[mailOutcomes[asked as MailOutcome]] : null
}

interface AskedAnswer {
  spot: Spot
  version: Version
  answerCase: AnswerCase
  /** What is answered, where its mark came along; null for the case's words alone. */
  signUp: AnsweredSignUp | null
}

function askedAnswer(c: Context, ledger: Ledger, keys: LinkKeys): AskedAnswer | null {
  const published = ledger.published()
  const spot = published.spot(c.req.param('spot') ?? '')
  if (spot === undefined) return null
  const signUp = signUpIn(keys, c.req.query('again') ?? '', spot.id)
  const answerCase = signUp?.answerCase ?? answerCases.find((one) => one === c.req.param('case'))
  const version = published.version(spot.form, Number(c.req.query('version'))) ?? published.latestVersion(spot.form)
  return version === undefined || answerCase === undefined ? null : { spot, version, answerCase, signUp }
}

/** Puts the address that somebody may have meant, who has just signed up, in the place of the one that was typed. */
function slipPress(member: Member, { spot, version: { content }, answerCase }: AskedAnswer, token: string): Press[] {
  const mayBeSlip = answerCase === 'joined' || answerCase === 'confirm-first'
  const meant = mayBeSlip ? meantAddress(member.email.typed) : null
  if (meant === null) return []
  const { didYouMean } = textsOf(content.language, content.texts)
  return [
    {
      action: `/resend/${spot.id}`,
      words: filledIn(didYouMean, { address: meant }),
      values: { 'askbox-again': token, 'askbox-instead': meant },
      isMain: false,
    },
  ]
}

import { Hono } from 'hono'
import { meantAddress } from '#core/email'
import { pageAddress } from '#core/embed'
import { answerCases, answerTo, ownPageOf } from '#core/form'
import type { MemberId } from '#core/ids'
import type { Member } from '#core/list'
import { answerPage, noticePage, signOf } from '#core/render'
import { filledIn, answerTextsOf, textsOf } from '#core/texts'
import { signUpIn } from '../mail'
import { sendPage } from '../pages'
import type { Rehearsals } from '../rehearsals'
import type { Settings } from '../settings'
import type { Ledger } from '../ledger'
import { frameTells } from './frame-tells'
import { outcomeOf } from './join'
import { wayBack } from './way-back'
import { giftOnAnswer } from './gift-on-answer'

/** How long an answer's page is of who has just signed up: a gift is handed over there, and the press for another mail stands there. */
const JUST_MS = 3_600_000

/**
 * `GET /answer/:spot/:case`: the page where a form post is sent on, in the version that the visitor saw. What it says of
 * one sign-up comes from what that sign-up was, signed; without that it shows the case's words and nothing else.
 */
export function answerRoutes(ledger: Ledger, settings: Settings, rehearsals: Rehearsals, now: () => number): Hono {
  /** Of a rehearsal's people too, so that they read what others read. */
  async function memberWith(id: MemberId): Promise<Member | null> {
    const member = await ledger.member(id)
    if (member !== null) return member
    for (const space of await rehearsals.spaces()) {
      const madeUp = await space.member(id)
      if (madeUp !== null) return madeUp
    }
    return null
  }

  return new Hono().get('/answer/:spot/:case', async (c) => {
    const published = ledger.published()
    const spot = published.spot(c.req.param('spot'))
    const linkKey = published.preferences()?.linkKey
    const again = c.req.query('again') ?? ''
    const signUp = spot === undefined ? null : signUpIn(linkKey, again, spot.id)
    const answerCase = signUp?.answerCase ?? answerCases.find((one) => one === c.req.param('case'))
    const version =
      spot && (published.version(spot.form, Number(c.req.query('version'))) ?? published.latestVersion(spot.form))
    if (spot === undefined || version === undefined || answerCase === undefined) {
      return sendPage(
        c,
        settings.publicUrl,
        noticePage('Nothing here', 'There is no such page. The address may be incomplete.'),
        { status: 404 },
      )
    }
    const answer = answerTo(version.content, answerCase)
    const waits = answerCase === 'confirm-first' || answerCase === 'already-waiting'
    const isJust = signUp !== null && now() - signUp.at < JUST_MS
    const isHeld = signUp?.isMailHeld ?? false
    const just = isJust ? await memberWith(signUp.member) : null
    const meant =
      just !== null && (answerCase === 'joined' || answerCase === 'confirm-first')
        ? meantAddress(just.email.typed)
        : null
    const { content } = version
    const texts = answerTextsOf(content.language)
    const own = ownPageOf(answer, () => '')
    if (own !== null && !isHeld) return c.redirect(own, 303)
    // Where a form in a frame was sent, its answer comes into the frame.
    const tells =
      c.req.header('Sec-Fetch-Dest') === 'iframe'
        ? frameTells(ledger, settings.publicUrl, spot, outcomeOf(answerCase))
        : null
    return sendPage(
      c,
      settings.publicUrl,
      answerPage(isHeld ? { ...answer, message: texts.mailHeld } : answer, version.content, wayBack(ledger, spot), {
        tells,
        sign: isHeld ? null : signOf(answerCase),
        press:
          (waits || isHeld) && isJust
            ? {
                action: `/resend/${spot.id}`,
                words: isHeld ? texts.sendNow : texts.sendAgain,
                values: { 'askbox-again': again },
                isMain: isHeld,
              }
            : null,
        links: [
          ...(meant === null
            ? []
            : [
                {
                  address: pageAddress(settings.publicUrl, spot.slug ?? spot.id),
                  words: filledIn(textsOf(content.language, content.texts).didYouMean, { address: meant }),
                  isQuiet: true,
                },
              ]),
          ...(just === null || answerCase !== 'joined'
            ? []
            : await giftOnAnswer(ledger, settings.publicUrl, just, linkKey)),
        ],
      }),
      { withScript: tells !== null },
    )
  })
}

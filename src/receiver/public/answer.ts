import { Hono } from 'hono'
import { meantAddress } from '#core/email'
import { pageAddress } from '#core/embed'
import { answerCases, answerTo, ownPageOf } from '#core/form'
import { answerPage, noticePage } from '#core/render'
import { filledIn, mailAnswerTextsOf, textsOf } from '#core/texts'
import { isOurs, memberIn } from '../mail-links'
import { sendPage } from '../pages'
import type { Settings } from '../settings'
import type { Ledger } from '../ledger'
import { wayBack } from './join'
import { giftOnAnswer } from './mail'

/** `GET /answer/:spot/:case`: the page where a form post is sent on, in the version that the visitor saw. */
export function answerRoutes(ledger: Ledger, settings: Settings): Hono {
  return new Hono().get('/answer/:spot/:case', (c) => {
    const published = ledger.published()
    const spot = published.spot(c.req.param('spot'))
    const answerCase = answerCases.find((one) => one === c.req.param('case'))
    const version =
      spot && (published.version(spot.form, Number(c.req.query('version'))) ?? published.latestVersion(spot.form))
    if (spot === undefined || version === undefined || answerCase === undefined) {
      return sendPage(
        c,
        settings.publicUrl,
        noticePage('Nothing here', 'There is no such page. The address may be incomplete.'),
        404,
      )
    }
    const answer = answerTo(version.content, answerCase)
    const again = c.req.query('again') ?? ''
    const waits = answerCase === 'confirm-first' || answerCase === 'already-waiting'
    const member = memberIn(again)
    const isKnown = isOurs(ledger.published().preferences()?.linkKey, again, 'again')
    // Only who has just signed up has this address.
    const just = isKnown && member !== null ? ledger.member(member) : null
    const meant =
      just !== null && (answerCase === 'joined' || answerCase === 'confirm-first')
        ? meantAddress(just.email.typed)
        : null
    const { content } = version
    const own = ownPageOf(answer, () => '')
    if (own !== null) return c.redirect(own, 303)
    return sendPage(
      c,
      settings.publicUrl,
      answerPage(answer, version.content, wayBack(ledger, spot), {
        press:
          waits && isKnown
            ? {
                action: `/resend/${spot.id}`,
                words: mailAnswerTextsOf(version.content.language).sendAgain,
                values: { 'askbox-again': again },
                isMain: false,
              }
            : null,
        links: [
          ...(meant === null
            ? []
            : [
                {
                  address: pageAddress(settings.publicUrl, spot.slug ?? spot.id),
                  words: filledIn(textsOf(content.language, content.texts).didYouMean, { address: meant }),
                },
              ]),
          ...(just === null || answerCase !== 'joined'
            ? []
            : giftOnAnswer(ledger, settings.publicUrl, just, ledger.published().preferences()?.linkKey)),
        ],
      }),
    )
  })
}

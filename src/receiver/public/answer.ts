import { Hono } from 'hono'
import { answerCases } from '#core/form'
import { answerPage, noticePage } from '#core/render'
import { addressProblem } from '#core/site'
import { sendPage } from '../pages'
import type { Settings } from '../settings'
import type { Ledger } from '../ledger'
import { wayBack } from './join'

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
    const answer = version.content.answers[answerCase]
    if (answer.show === 'address' && addressProblem(answer.address) === null)
      return c.redirect(new URL(answer.address.trim()).href, 303)
    return sendPage(c, settings.publicUrl, answerPage(answer, version.content, wayBack(ledger, spot)))
  })
}

import { api } from '#core/api'
import type { OpenAPIHono } from '@hono/zod-openapi'
import type { Context } from 'hono'
import type { Member } from '#core/list'
import type { HandedOn } from '#core/proof'
import { type BrowserPort } from '../../browser'
import { OutsideProblem } from '../../outside'
import {
  download,
  expireIn,
  mailsTo,
  OtherAction,
  type RehearsalMailParts,
  rehearsalRequests,
  type Rehearsals,
} from '..'
import type { Settings } from '../../settings'
import { refused } from '../../http/answers'
import { described } from '../../http/described'

const paths = described(api.rehearsals)

/** The receiver's part in a rehearsal: pages, posts, members, mail. */
export function rehearsalApiRoutes(
  routes: OpenAPIHono,
  {
    settings,
    rehearsals,
    browsers,
    rehearsalMail,
    handOn,
  }: {
    settings: Settings
    rehearsals: Rehearsals
    browsers: BrowserPort | null
    rehearsalMail: RehearsalMailParts
    handOn(member: Member): Promise<HandedOn[]>
  },
): void {
  routes.openapi(paths.startRehearsal, async (c) => {
    const { spot, byHand } = c.req.valid('json')
    const started = await rehearsals.start(spot, byHand === true ? 'byHand' : 'byItself')
    return started === null
      ? refused(c, {
          status: 429,
          title: 'Too many rehearsals',
          detail: 'Twenty go on at once already. Wait until one ends.',
        })
      : c.json(
          {
            code: started.code,
            hasBrowser: browsers?.isThere() ?? false,
            hasFirefox: browsers?.hasFirefox() ?? false,
          },
          200,
        )
  })

  routes.openapi(paths.visitForRehearsal, async (c) => {
    const { code } = c.req.valid('param')
    if ((await rehearsals.get(code)) === null) return noRehearsal(c)
    if (browsers === null) return c.json({ isTried: false as const, reason: 'There is no browser here.' }, 200)
    return c.json(await browsers.visit(code, c.req.valid('json')), 200)
  })

  routes.openapi(paths.readForRehearsal, async (c) => {
    const { code } = c.req.valid('param')
    const wish = c.req.valid('json')
    if ((await rehearsals.get(code)) === null) return noRehearsal(c)
    if (browsers === null || !wish.link.startsWith(`${settings.publicUrl}/`))
      return c.json(
        {
          isTried: false as const,
          reason: browsers === null ? 'There is no browser here.' : 'The link leads elsewhere.',
        },
        200,
      )
    return c.json(await browsers.read(code, { ...wish, receiver: settings.publicUrl }), 200)
  })

  routes.openapi(paths.fetchForRehearsal, async (c) => {
    const { code } = c.req.valid('param')
    const { address, as } = c.req.valid('json')
    if ((await rehearsals.get(code)) === null) return noRehearsal(c)
    try {
      return c.json(await rehearsalRequests(settings, code).fetch(address, as), 200)
    } catch (error) {
      return asProblem(c, error)
    }
  })

  routes.openapi(paths.sendForRehearsal, async (c) => {
    const { code } = c.req.valid('param')
    const { address, contentType, body, as } = c.req.valid('json')
    if ((await rehearsals.get(code)) === null) return noRehearsal(c)
    try {
      return c.json(
        await rehearsalRequests(settings, code).send(address, contentType, Buffer.from(body, 'base64'), as),
        200,
      )
    } catch (error) {
      return asProblem(c, error)
    }
  })

  routes.openapi(paths.lookUpForRehearsal, async (c) => {
    const rehearsal = await rehearsals.get(c.req.valid('param').code)
    return rehearsal === null ? noRehearsal(c) : c.json(await rehearsal.space.known(c.req.valid('query').email), 200)
  })

  routes.openapi(paths.handOnForRehearsal, async (c) => {
    const rehearsal = await rehearsals.get(c.req.valid('param').code)
    if (rehearsal === null) return noRehearsal(c)
    const { member } = await rehearsal.space.known(c.req.valid('json').email)
    return c.json({ handed: member === null ? [] : await handOn(member) }, 200)
  })

  routes.openapi(paths.mailsForRehearsal, async (c) => {
    const rehearsal = await rehearsals.get(c.req.valid('param').code)
    if (rehearsal === null) return noRehearsal(c)
    return c.json(await mailsTo(rehearsal, c.req.valid('query').email, rehearsalMail), 200)
  })

  routes.openapi(paths.downloadForRehearsal, async (c) => {
    if ((await rehearsals.get(c.req.valid('param').code)) === null) return noRehearsal(c)
    try {
      return c.json(await download(c.req.valid('json').address, settings), 200)
    } catch (error) {
      return asProblem(c, error)
    }
  })

  routes.openapi(paths.expireForRehearsal, async (c) => {
    const rehearsal = await rehearsals.get(c.req.valid('param').code)
    if (rehearsal === null) return noRehearsal(c)
    await expireIn(rehearsal, c.req.valid('json').email)
    return c.json({ ok: true as const }, 200)
  })

  routes.openapi(paths.endRehearsal, async (c) => {
    await rehearsals.end(c.req.valid('param').code)
    return c.json({ ok: true as const }, 200)
  })
}

function noRehearsal(c: Context) {
  return refused(c, { status: 404, title: 'No such rehearsal', detail: 'It has ended, or there never was one.' })
}

/** Why no answer came, or why nothing is posted there. */
function asProblem(c: Context, error: unknown) {
  if (error instanceof OtherAction)
    return refused(c, {
      status: 403,
      title: 'Another address',
      detail: 'The form sends to somewhere else than this receiver, and nothing is posted there.',
    })
  if (!(error instanceof OutsideProblem)) throw error
  return refused(c, { status: 502, title: 'No answer', detail: error.message })
}

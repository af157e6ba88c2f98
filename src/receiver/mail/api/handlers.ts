import { api, type MailOnList } from '#core/api'
import type { OpenAPIHono } from '@hono/zod-openapi'
import { mailsInState, mailsToMember, type QueuedMail } from '../queued'
import { type MailServerSettings, makeDkim } from '..'
import { refused } from '../../http/answers'
import type { MailApiParts } from './parts'
import { mailState } from './state'
import { described } from '../../http/described'

const paths = described(api.mail)

const MOST_LISTED = 200

/** Mail: server, pace, queue. */
export function mailApiRoutes(routes: OpenAPIHono, parts: MailApiParts): void {
  const { ledger, settings, sender } = parts
  const { queue } = ledger
  const keep = (changes: Partial<MailServerSettings>) => sender.change(() => changes)

  routes.openapi(paths.readMailState, async (c) => c.json(await mailState(parts), 200))

  routes.openapi(paths.listMails, async (c) => {
    const mails = await mailsInState(queue, c.req.valid('query').state, MOST_LISTED)
    return c.json({ mails: mails.map(shown) }, 200)
  })

  routes.openapi(paths.listMailsToMember, async (c) => {
    const member = await ledger.member(c.req.valid('param').member)
    const mails = member === null ? [] : await mailsToMember(queue, member, MOST_LISTED)
    const times = member === null ? 0 : await ledger.downloadsOf(member.id)
    const last = member === null ? 0 : await ledger.lastDownload(member.id)
    return c.json({ mails: mails.map(shown), gift: { times, last } }, 200)
  })

  routes.openapi(paths.tryMailAgain, async (c) => {
    const isQueued = await queue.tryAgain(c.req.valid('param').id)
    sender.wake()
    return c.json({ isQueued }, 200)
  })

  routes.openapi(paths.keepMailServer, async (c) => {
    if (settings.smtpServer !== null)
      return refused(c, {
        status: 409,
        title: 'Set elsewhere',
        detail: 'SMTP_URL sets the mail server of this receiver.',
      })
    const { server } = c.req.valid('json')
    await sender.change((before) => ({
      server: server === null ? null : { ...server, password: server.password ?? before.server?.password ?? '' },
    }))
    // Another server has refused nobody yet.
    if ((await sender.settings()).halted !== null) await sender.goOn()
    return c.json(await mailState(parts), 200)
  })

  routes.openapi(paths.keepPace, async (c) => {
    await keep(c.req.valid('json'))
    return c.json(await mailState(parts), 200)
  })

  routes.openapi(paths.goOn, async (c) => {
    await sender.goOn()
    return c.json(await mailState(parts), 200)
  })

  routes.openapi(paths.putBackMarked, async (c) => {
    const count = await ledger.putBackWronglyBounced()
    return c.json({ count, mail: await mailState(parts) }, 200)
  })

  routes.openapi(paths.keepDkim, async (c) => {
    const { domain } = c.req.valid('json')
    await keep({ dkim: domain === null ? null : makeDkim(domain, 'askbox') })
    return c.json(await mailState(parts), 200)
  })
}

/** A mail of the queue as its owner sees it. */
function shown({ id, list, member, kind, recipient, queued, due, state, attempts, said }: QueuedMail): MailOnList {
  return { id, list, member, kind, recipient, queued, due, state, attempts, said }
}

import { api } from '#core/api'
import type { OpenAPIHono } from '@hono/zod-openapi'
import type { Context } from 'hono'
import { type StandInMailbox } from '../..'
import { refused } from '../../../http/answers'
import { described } from '../../../http/described'

const paths = described(api.mailbox)

/** The stand-in mailbox, where one runs. */
export function mailboxRoutes(routes: OpenAPIHono, mailbox: StandInMailbox | null): void {
  routes.openapi(paths.listBoxes, (c) =>
    mailbox === null ? noMailbox(c) : c.json({ boxes: mailbox.boxes(), behaviour: mailbox.behaviour() }, 200),
  )

  routes.openapi(paths.readBox, (c) =>
    mailbox === null ? noMailbox(c) : c.json({ mails: mailbox.mails(c.req.valid('param').address) }, 200),
  )

  routes.openapi(paths.behaveMailbox, (c) => {
    if (mailbox === null) return noMailbox(c)
    mailbox.behave(c.req.valid('json'))
    return c.json({ ok: true as const }, 200)
  })

  routes.openapi(paths.emptyMailbox, (c) => {
    if (mailbox === null) return noMailbox(c)
    mailbox.empty()
    return c.json({ ok: true as const }, 200)
  })
}

function noMailbox(c: Context) {
  return refused(c, {
    status: 404,
    title: 'No stand-in mailbox',
    detail: 'Mail goes to a real server here; there is no mailbox to look into.',
  })
}

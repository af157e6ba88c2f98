import { Hono } from 'hono'
import { confirmRoutes } from './confirm'
import { giftRoutes, type GiftRouteParts } from './gift'
import { leaveRoutes } from './leave'
import { mailPages, type MailPageParts } from './mail-pages'
import { type ResendParts, resendRoutes } from './resend'

export interface MailRouteParts extends MailPageParts, ResendParts, GiftRouteParts {
  /** Told of a list whose mail somebody real read. */
  followed(list: string): Promise<void>
}

/**
 * What links in mails lead to: `GET and POST /confirm/:token`, `GET and POST /leave/:token`,
 * `GET and POST /gift/:token`, and `POST /resend/:spot`. Opening a link changes nothing, whoever opens it and with
 * whatever program: what it is about takes a press there, or the post of RFC 8058.
 */
export function mailRoutes(parts: MailRouteParts): Hono {
  const pages = mailPages(parts)
  const routes = new Hono()
  routes.route('/', confirmRoutes(parts.ledger, pages, parts.followed))
  routes.route('/', leaveRoutes(parts.ledger, pages))
  routes.route('/', resendRoutes(parts, pages))
  routes.route('/', giftRoutes(parts, pages))
  return routes
}

import { Hono } from 'hono'
import { filledIn, answerTextsOf } from '#core/texts'
import type { Ledger } from '../ledger'
import type { MailPages } from './mail-pages'

/** `GET and POST /confirm/:token`. `followed` is told of a list whose mail somebody real read. */
export function confirmRoutes(
  ledger: Ledger,
  { holder, contentFor, show, answer, nothing }: MailPages,
  followed: (list: string) => Promise<void>,
): Hono {
  const routes = new Hono()
  routes.get('/confirm/:token', async (c) => {
    const link = await holder(c.req.param('token'), 'confirm')
    if (link === null) return nothing(c)
    const { member, isOver } = link
    if (isOver || member.status !== 'waiting')
      return answer(c, member, !isOver && member.status === 'confirmed' ? 'confirmed' : 'link-expired')
    const { confirmPage, confirm } = answerTextsOf(contentFor(member).language)
    const heading = filledIn(confirmPage.heading, { list: ledger.published().list(member.list)?.name ?? '' })
    const press = { action: `/confirm/${c.req.param('token')}`, words: confirm, isMain: true }
    return show(c, member, { ...confirmPage, heading }, { presses: [press] })
  })
  // What holds is said by the page that this leads to: loaded again, or come back to, it changes nothing.
  routes.post('/confirm/:token', async (c) => {
    const token = c.req.param('token')
    const link = await holder(token, 'confirm')
    if (link === null) return nothing(c)
    const { people, member } = link
    const outcome = link.isOver ? 'expired' : await people.confirm(member.id, member.joinedAt)
    if (outcome === 'confirmed' && people === ledger) await followed(member.list)
    return c.redirect(`/confirm/${token}`, 303)
  })
  return routes
}

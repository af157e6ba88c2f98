import { Hono } from 'hono'
import { filledIn, answerTextsOf } from '#core/texts'
import type { Ledger } from '../ledger'
import type { MailPages } from './mail-pages'

/** `GET and POST /confirm/:token`. `followed` is told of a list whose mail somebody real read. */
export function confirmRoutes(
  ledger: Ledger,
  { holder, contentFor, show, answer, spent }: MailPages,
  followed: (list: string) => Promise<void>,
): Hono {
  const routes = new Hono()
  routes.get('/confirm/:token', async (c) => {
    const link = await holder(c.req.param('token'), 'confirm')
    if (link === null) return spent(c, c.req.param('token'))
    const { member } = link
    if (member.status !== 'waiting')
      return answer(c, member, member.status === 'confirmed' ? 'confirmed' : 'link-expired')
    const { confirmPage, confirm } = answerTextsOf(contentFor(member).language)
    const heading = filledIn(confirmPage.heading, { list: ledger.published().list(member.list)?.name ?? '' })
    return show(
      c,
      member,
      { ...confirmPage, heading },
      {
        press: { action: `/confirm/${c.req.param('token')}`, words: confirm, isMain: true },
      },
    )
  })
  routes.post('/confirm/:token', async (c) => {
    const link = await holder(c.req.param('token'), 'confirm')
    if (link === null) return spent(c, c.req.param('token'))
    const { people, member } = link
    const outcome = await people.confirm(member.id, member.joinedAt)
    if (outcome === 'confirmed' && people === ledger) await followed(member.list)
    return answer(c, (await people.member(member.id)) ?? member, outcome === 'expired' ? 'link-expired' : 'confirmed')
  })
  return routes
}

import { type Context, Hono } from 'hono'
import { filledIn, answerTextsOf } from '#core/texts'
import type { Member } from '#core/list'
import type { Ledger } from '../ledger'
import { readSmallForm } from '../http/read-body'
import type { MailPages } from './mail-pages'

/** `GET and POST /leave/:token`. */
export function leaveRoutes(ledger: Ledger, { holder, contentFor, show, nothing, answer }: MailPages): Hono {
  const routes = new Hono()
  routes.get('/leave/:token', async (c) => {
    const link = await holder(c.req.param('token'), 'leave')
    if (link === null) return nothing(c)
    const { member } = link
    const texts = answerTextsOf(contentFor(member).language)
    const list = ledger.published().list(member.list)?.name ?? ''
    const action = leaveAction(c)
    const isBack = c.req.query('back') !== undefined
    if (member.status === 'left') {
      const press = { action, words: texts.comeBack, values: { 'askbox-do': 'come-back' }, isMain: isBack }
      // Who comes for the way back finds it, wherever else leaving leads to.
      return isBack ? show(c, member, texts.left, { presses: [press] }) : answer(c, member, 'left', [press])
    }
    if (member.status !== 'confirmed' && member.status !== 'waiting') return answer(c, member, 'left')
    if (isBack) return show(c, member, texts.returned)
    const { heading, message } = texts.leavePage
    const whose = c.req.query('copy') === undefined ? null : filledIn(texts.leaveCopy, { address: masked(member) })
    return show(
      c,
      member,
      { heading: filledIn(heading, { list }), message: whose === null ? message : `${message}\n\n${whose}` },
      { presses: [{ action, words: texts.leave, values: { 'askbox-do': 'leave' }, isMain: true }] },
    )
  })
  routes.post('/leave/:token', async (c) => {
    const link = await holder(c.req.param('token'), 'leave')
    if (link === null) return nothing(c)
    const { people, member } = link
    const body = await readSmallForm(c)
    const isOneClick = body.get('List-Unsubscribe') === 'One-Click'
    if (!isOneClick && body.get('askbox-do') === 'come-back') {
      await people.comeBack(member.id)
      return c.redirect(leaveAction(c, true), 303)
    }
    if (!isOneClick && body.get('askbox-do') !== 'leave') return c.redirect(leaveAction(c), 303)
    const hasLeft = await people.leave(member.id, isOneClick ? 'one-click' : 'page')
    const letter = c.req.query('letter')
    if (hasLeft && people === ledger && letter !== undefined) await ledger.letters.leftBy(letter, member.id)
    // RFC 8058, section 3.1: nobody reads an answer, and none is to be followed.
    if (isOneClick) return c.text('Left.', 200, { 'Cache-Control': 'no-store' })
    return c.redirect(leaveAction(c), 303)
  })
  return routes
}

/** As whoever has the address knows it, and nobody else: `a•••@hill.example`. */
const masked = ({ email: { typed } }: Member): string => `${[...typed][0]}•••${typed.slice(typed.lastIndexOf('@'))}`

/** With the letter whose link was followed, so that it is known by which they left. */
function leaveAction(c: Context, isBack = false): string {
  const letter = /^[a-z0-9]{4,32}$/.exec(c.req.query('letter') ?? '')?.[0]
  const query = [
    ...(letter === undefined ? [] : [`letter=${letter}`]),
    ...(c.req.query('copy') === undefined ? [] : ['copy']),
    ...(isBack ? ['back'] : []),
  ].join('&')
  return `/leave/${c.req.param('token')}${query === '' ? '' : `?${query}`}`
}

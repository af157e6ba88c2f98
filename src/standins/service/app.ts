import { randomBytes } from 'node:crypto'
import { Hono } from 'hono'
import { html } from 'hono/html'
import { Webhook } from 'standardwebhooks'
import type { Asking } from './asking'
import { documentedRoutes } from './documented'
import { harbourRoutes } from './harbour'
import { type Holdings, type Service, services, type Trouble, troubles } from './holdings'
import { kettleRoutes } from './kettle'
import { lanternRoutes } from './lantern'
import { servicePage, serviceNames } from './page'

/** The secret that the pretend webhooks are signed with. */
export const HOOK_SECRET = `whsec_${Buffer.from('pretend webhooks of Ask Box').toString('base64')}`

/**
 * The pretend list services as one app: three interfaces, forms, webhooks, and a page that shows what they hold.
 *
 * @param left called when somebody leaves on a page of theirs
 */
export function serviceApp(
  holdings: Holdings,
  asking: Asking,
  left: (service: Service, list: string, email: string) => unknown,
): Hono {
  const app = new Hono()
  app.get('/', (c) => c.html(servicePage(holdings)))

  for (const service of services) {
    const own = new Hono()
    const back = () => `/#${service}`
    own.post('/key', async (c) => {
      const form = await c.req.formData()
      const text = `${service}-${randomBytes(9).toString('hex')}`
      holdings.addKey(service, { text, canWrite: form.get('writes') !== 'no' })
      return c.redirect(back(), 303)
    })
    own.post('/withdraw', async (c) => {
      holdings.dropKey(service, String((await c.req.formData()).get('key')))
      return c.redirect(back(), 303)
    })
    own.post('/trouble', async (c) => {
      const form = await c.req.formData()
      const trouble = String(form.get('trouble'))
      if (!(trouble in troubles)) return c.text('No such trouble.', 400)
      holdings.switch(service, trouble as Trouble, form.get('on') !== 'no')
      return c.redirect(back(), 303)
    })
    own.post('/tell', async (c) => {
      holdings.tellTo(service, String((await c.req.formData()).get('address') ?? '').trim())
      return c.redirect(back(), 303)
    })
    own.post('/leave', async (c) => {
      const form = await c.req.formData()
      const [list, email] = [String(form.get('list')), String(form.get('email'))]
      if (holdings.setState(service, list, email, 'off')) await left(service, list, email)
      return c.redirect(back(), 303)
    })
    app.route(`/${service}/own`, own)
  }
  // After what its owner presses on its page: one of them answers to every path.
  app.route('/lantern/v2', lanternRoutes(holdings, asking))
  app.route('/kettle', kettleRoutes(holdings, asking))
  app.route('/harbour', harbourRoutes(holdings, asking))
  app.route('/', documentedRoutes())

  app.get('/confirm/:token', (c) => {
    const answered = asking.answered(c.req.param('token'))
    if (answered === null) return c.text('This link is nobody’s.', 404)
    holdings.setState(answered.service, answered.list, answered.email, 'on')
    return c.html(
      html`<!doctype html><title>Thank you</title>
        <h1>You are on the list.</h1>`,
    )
  })

  // Forms of the services' own: Lantern Post's lists, posted to by visitors.
  app.post('/forms/:list', async (c) => {
    const list = holdings.list('lantern', c.req.param('list'))
    const form = await c.req.formData()
    const pairs = [...form.entries()].map(([name, value]) => [name, String(value)] as [string, string])
    holdings.tell({ at: new Date().toISOString(), to: c.req.path, text: new URLSearchParams(pairs).toString() })
    if (list === null) return c.html('<!doctype html><title>Gone</title><h1>This form is closed.</h1>', 404)
    const email = String(form.get('EMAIL') ?? '')
    if (!/^[^@\s]+@[^@\s]+$/.test(email) || String(form.get('b_trap') ?? '') !== '')
      return c.html('<!doctype html><title>Wrong</title><h1>That is no address.</h1>', 400)
    const values = Object.fromEntries(pairs.filter(([name]) => list.fields.some(({ key }) => key === name)))
    const tags = pairs.filter(([name]) => name === 'tags').map(([, value]) => value)
    const asks = form.get('ask') === 'yes'
    const put = holdings.put('lantern', list, { email, values, tags, asks })
    if (put !== null && put.isNew && put.person.state === 'waiting') asking.ask('lantern', list, put.person)
    return c.html(
      html`<!doctype html>
        <html lang="en">
          <title>${serviceNames.lantern}</title>
          <h1>Thank you from ${serviceNames.lantern}</h1>
        </html>`,
    )
  })

  app.post('/hooks/:name', async (c) => {
    const text = await c.req.text()
    const to = c.req.path
    if (holdings.has('lantern', 'down')) return c.text('Down for repairs', 503)
    try {
      if (holdings.has('lantern', 'clock-wrong')) throw new Error('Message timestamp too old')
      new Webhook(HOOK_SECRET).verify(text, c.req.header())
    } catch (error) {
      holdings.tell({ at: new Date().toISOString(), to, text: `refused: ${(error as Error).message}` })
      return c.text((error as Error).message, 401)
    }
    holdings.tell({ at: new Date().toISOString(), to, text })
    return c.body(null, 204)
  })
  return app
}

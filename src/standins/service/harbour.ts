import { createHash, randomBytes } from 'node:crypto'
import { Hono } from 'hono'
import { html } from 'hono/html'
import { gate, objectOf, pageOf, textsIn } from './gate'
import type { Holdings, HeldPerson } from './holdings'
import type { Asking } from './asking'

const SIZE = 500
/** Short, so that it is seen that keys are had anew. */
const KEY_SECONDS = 600
const states = { on: 'active', waiting: 'unconfirmed', off: 'ended' }
const shown = ({ id, email, state, values, tags }: HeldPerson) => ({
  id,
  type: 'subscription',
  attributes: {
    email,
    state: states[state],
    columns: Object.entries(values).map(([key, value]) => ({ key, value })),
    labels: tags.map((title) => ({ title })),
  },
})

/** A service where its owner signs in: OAuth 2.0 (RFC 6749) with PKCE (RFC 7636), and keys that end. */
export function harbourRoutes(holdings: Holdings, asking: Asking): Hono {
  const app = new Hono()
  const codes = new Map<string, { challenge: string; redirect: string }>()
  const refreshes = new Map<string, string>()
  const problem = (code: string, title: string) => ({ errors: [{ code, title }] })

  app.get('/authorize', (c) => {
    const { redirect_uri = '', state = '', code_challenge = '', code_challenge_method, response_type } = c.req.query()
    if (response_type !== 'code' || code_challenge_method !== 'S256' || code_challenge === '')
      return c.text('This way of signing in is not known here.', 400)
    return c.html(
      html`<!doctype html>
        <html lang="en">
          <meta charset="utf-8" />
          <title>Harbour Bulletin</title>
          <body style="font:18px/1.5 sans-serif;max-width:34em;margin:4em auto;padding:0 1em">
            <h1>Harbour Bulletin</h1>
            <p>Ask Box wants to read your bulletins, and to add people to them and take them off.</p>
            <form method="post">
              <input type="hidden" name="redirect" value="${redirect_uri}" />
              <input type="hidden" name="state" value="${state}" />
              <input type="hidden" name="challenge" value="${code_challenge}" />
              <button name="answer" value="yes">Let it</button> <button name="answer" value="no">Do not</button>
            </form>
          </body>
        </html>`,
    )
  })
  app.post('/authorize', async (c) => {
    const form = await c.req.formData()
    const back = new URL(String(form.get('redirect')))
    back.searchParams.set('state', String(form.get('state')))
    if (form.get('answer') === 'yes') {
      const code = randomBytes(12).toString('hex')
      codes.set(code, { challenge: String(form.get('challenge')), redirect: String(form.get('redirect')) })
      back.searchParams.set('code', code)
    } else {
      back.searchParams.set('error', 'access_denied')
      back.searchParams.set('error_description', 'You said no there.')
    }
    return c.redirect(back.href, 303)
  })
  app.post('/token', async (c) => {
    const form = await c.req.formData()
    const refresh = String(form.get('refresh_token') ?? '')
    const code = String(form.get('code') ?? '')
    const begun = codes.get(code)
    codes.delete(code)
    const digest = createHash('sha256')
      .update(String(form.get('code_verifier')))
      .digest('base64url')
    const isSignedIn = begun?.challenge === digest && begun.redirect === form.get('redirect_uri')
    if (!isSignedIn && !refreshes.has(refresh))
      return c.json({ error: 'invalid_grant', error_description: 'Sign in again.' }, 400)
    // A key that is had anew takes the place of the one before.
    const before = refreshes.get(refresh)
    if (before !== undefined) holdings.dropKey('harbour', before)
    refreshes.delete(refresh)
    const text = `harbour-${randomBytes(12).toString('hex')}`
    const next = randomBytes(12).toString('hex')
    refreshes.set(next, text)
    holdings.addKey('harbour', { text, canWrite: true })
    return c.json({ access_token: text, token_type: 'Bearer', expires_in: KEY_SECONDS, refresh_token: next })
  })

  const inside = new Hono()
  inside.use(
    gate(holdings, 'harbour', (c) => /^Bearer (.+)$/.exec(c.req.header('Authorization') ?? '')?.[1] ?? null, {
      wrongKey: (c) => c.json(problem('key', 'Sign in again.'), 401),
      mayNot: (c) => c.json(problem('scope', 'You were not let to change anything.'), 403),
      slowDown: (c) => c.json(problem('pace', 'Slow down.'), 429, { 'Retry-After': '1' }),
    }),
  )
  const list = (id: string) => holdings.list('harbour', id)
  const noList = problem('bulletin', 'There is no such bulletin.')
  inside.get('/whoami', (c) => c.json({ data: { attributes: { title: 'Cloudberry Hill at the Harbour' } } }))
  inside.get('/bulletins', (c) =>
    c.json({
      data: holdings.lists('harbour').map(({ id, name, people }) => ({
        id,
        attributes: { title: name, subscribers: people.size },
      })),
      meta: { after: null },
    }),
  )
  inside.get('/bulletins/:list/columns', (c) => {
    const found = list(c.req.param('list'))
    if (found === null) return c.json(noList, 404)
    const fields = holdings.fields('harbour', found)
    return c.json({
      data: fields.map(({ key, name, kind, isRequired }) => ({
        id: key,
        attributes: { title: name, kind, needed: isRequired },
      })),
    })
  })
  inside.post('/bulletins/:list/columns', async (c) => {
    const found = list(c.req.param('list'))
    if (found === null) return c.json(noList, 404)
    const { title = '' } = textsIn(objectOf(objectOf(await c.req.json()).data).attributes)
    return c.json({ data: { id: holdings.addField('harbour', found, title).key } }, 201)
  })
  inside.get('/bulletins/:list/subscriptions/at', (c) => {
    if (list(c.req.param('list')) === null) return c.json(noList, 404)
    const person = holdings.person('harbour', c.req.param('list'), c.req.query('email') ?? '')
    return person === null ? c.json(problem('nobody', 'Nobody at this address.'), 404) : c.json({ data: shown(person) })
  })
  inside.get('/bulletins/:list/subscriptions', (c) => {
    const found = list(c.req.param('list'))
    if (found === null) return c.json(noList, 404)
    const { items, next } = pageOf([...found.people.values()], Number(c.req.query('cursor') ?? 0), SIZE)
    return c.json({ data: items.map(shown), meta: { after: next } })
  })
  const attributesIn = async (request: { json(): Promise<unknown> }) => {
    const attributes = objectOf(objectOf(objectOf(await request.json()).data).attributes)
    const pairs = (value: unknown) => (Array.isArray(value) ? value.map(textsIn) : [])
    return {
      email: typeof attributes.email === 'string' ? attributes.email : '',
      values: Object.fromEntries(pairs(attributes.columns).map(({ key = '', value = '' }) => [key, value])),
      tags: pairs(attributes.labels).flatMap(({ title }) => title ?? []),
      formerTags: pairs(attributes.formerLabels).flatMap(({ title }) => title ?? []),
      asks: attributes.ask === true,
    }
  }
  inside.post('/bulletins/:list/subscriptions', async (c) => {
    const found = list(c.req.param('list'))
    if (found === null) return c.json(noList, 404)
    const given = await attributesIn(c.req)
    const before = holdings.person('harbour', found.id, given.email)
    if (before !== null && before.state !== 'off') return c.json(problem('there', 'There already.'), 409)
    const missing = holdings.fields('harbour', found).find(({ key, isRequired }) => isRequired && !given.values[key])
    if (missing !== undefined) return c.json(problem('needed', `${missing.name} is needed.`), 422)
    const put = holdings.put('harbour', found, given)
    if (put === null) return c.json(problem('ended', 'They ended it themselves.'), 423)
    if (put.person.state === 'waiting') asking.ask('harbour', found, put.person)
    return c.json({ data: shown(put.person) }, 201)
  })
  const byId = (listId: string, id: string) =>
    [...(list(listId)?.people.values() ?? [])].find((person) => person.id === id) ?? null
  inside.patch('/bulletins/:list/subscriptions/:id', async (c) => {
    const found = list(c.req.param('list'))
    const person = byId(c.req.param('list'), c.req.param('id'))
    if (found === null || person === null) return c.json(problem('nobody', 'Nobody of that number.'), 404)
    const put = holdings.put('harbour', found, { ...(await attributesIn(c.req)), email: person.email })
    return put === null
      ? c.json(problem('ended', 'They ended it themselves.'), 423)
      : c.json({ data: shown(put.person) })
  })
  inside.delete('/bulletins/:list/subscriptions/:id', (c) => {
    const person = byId(c.req.param('list'), c.req.param('id'))
    if (person === null) return c.json(problem('nobody', 'Nobody of that number.'), 404)
    holdings.drop('harbour', c.req.param('list'), person.email)
    return c.body(null, 204)
  })
  app.route('/', inside)
  return app
}

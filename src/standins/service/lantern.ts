import { Hono } from 'hono'
import { gate, objectOf, pageOf, textsIn } from './gate'
import type { Holdings, HeldPerson, PretendList } from './holdings'
import type { Asking } from './asking'

const SIZE = 500
const states = { on: 'subscribed', waiting: 'pending', off: 'left' }
const shown = ({ id, email, state, values, tags }: HeldPerson) => ({
  id,
  email,
  state: states[state],
  fields: values,
  tags,
})

/** A service that speaks JSON, with its key in the Authorization header. */
export function lanternRoutes(holdings: Holdings, asking: Asking): Hono {
  const app = new Hono()
  const problem = (code: string, message: string) => ({ error: { code, message } })
  app.use(
    gate(holdings, 'lantern', (c) => /^Bearer (.+)$/.exec(c.req.header('Authorization') ?? '')?.[1] ?? null, {
      wrongKey: (c) => c.json(problem('key', 'This key is not one of ours.'), 401),
      mayNot: (c) => c.json(problem('scope', 'This key may only read.'), 403),
      slowDown: (c) => c.json(problem('pace', 'Too many requests.'), 429, { 'Retry-After': '1' }),
    }),
  )
  app.get('/me', (c) => c.json({ account: { name: 'Cloudberry Hill at Lantern Post' } }))
  app.get('/lists', (c) => {
    const { items, next } = pageOf(holdings.lists('lantern'), Number(c.req.query('cursor') ?? 0), 2)
    return c.json({ lists: items.map(({ id, name, people }) => ({ id, name, people: people.size })), next })
  })
  const list = (id: string) => holdings.list('lantern', id)
  const noList = problem('no-list', 'There is no such list.')

  app.get('/lists/:list/fields', (c) => {
    const found = list(c.req.param('list'))
    if (found === null) return c.json(noList, 404)
    const fields = holdings.fields('lantern', found)
    return c.json({
      fields: fields.map(({ key, name, kind, isRequired }) => ({
        tag: key,
        label: name,
        type: kind,
        required: isRequired,
      })),
    })
  })
  app.post('/lists/:list/fields', async (c) => {
    const found = list(c.req.param('list'))
    if (found === null) return c.json(noList, 404)
    const { label } = textsIn(await c.req.json())
    if (!label) return c.json(problem('label', 'A field needs a label.'), 422)
    return c.json({ tag: holdings.addField('lantern', found, label).key }, 201)
  })
  app.get('/lists/:list/people', (c) => {
    const found = list(c.req.param('list'))
    if (found === null) return c.json(noList, 404)
    const { items, next } = pageOf([...found.people.values()], Number(c.req.query('cursor') ?? 0), SIZE)
    return c.json({ people: items.map(shown), next })
  })
  app.get('/lists/:list/people/:email', (c) => {
    if (list(c.req.param('list')) === null) return c.json(noList, 404)
    const person = holdings.person('lantern', c.req.param('list'), c.req.param('email'))
    return person === null ? c.json(problem('nobody', 'Nobody has this address.'), 404) : c.json(shown(person))
  })
  app.put('/lists/:list/people/:email', async (c) => {
    const found = list(c.req.param('list'))
    if (found === null) return c.json(noList, 404)
    const body = objectOf(await c.req.json())
    const values = textsIn(body.fields)
    const wrong = wrongFields(holdings, found, values)
    if (wrong !== null) return c.json(problem('field', wrong), 422)
    const tags = listOf(body.tags)
    const put = holdings.put('lantern', found, {
      email: c.req.param('email'),
      values,
      tags,
      formerTags: listOf(body.untag),
      asks: body.ask === true,
    })
    if (put === null) return c.json(problem('opted-out', 'This reader left, and has to come back by themselves.'), 409)
    if (put.isNew && put.person.state === 'waiting') asking.ask('lantern', found, put.person)
    return c.json(shown(put.person), put.isNew ? 201 : 200)
  })
  app.delete('/lists/:list/people/:email', (c) =>
    holdings.drop('lantern', c.req.param('list'), c.req.param('email'))
      ? c.body(null, 204)
      : c.json(problem('nobody', 'Nobody has this address.'), 404),
  )
  return app
}

const listOf = (value: unknown): string[] => (Array.isArray(value) ? value.map(String) : [])

/** What is wrong with the values of somebody; null for nothing. */
export function wrongFields(holdings: Holdings, list: PretendList, values: Record<string, string>): string | null {
  const fields = holdings.fields('lantern', list)
  const unknown = Object.keys(values).find((key) => !fields.some((field) => field.key === key))
  if (unknown !== undefined) return `There is no field ${unknown}.`
  const missing = fields.find(({ key, isRequired }) => isRequired && !values[key])
  return missing === undefined ? null : `${missing.name} is required.`
}

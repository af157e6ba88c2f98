import { Hono } from 'hono'
import { gate, pageOf } from './gate'
import type { Holdings, HeldPerson } from './holdings'
import type { Asking } from './asking'

export const KETTLE_ACCOUNT = '7045'
const SIZE = 500
const standings = { on: 'reads', waiting: 'asked', off: 'gone' }
const shown = ({ id, email, state, values, tags }: HeldPerson) => ({
  number: id,
  address: email,
  standing: standings[state],
  answers: values,
  labels: tags.join(','),
})

/** A service that takes forms, and says 200 to everything, with what came of it inside. */
export function kettleRoutes(holdings: Holdings, asking: Asking): Hono {
  const app = new Hono()
  const no = (reason: string, words: string) => ({ ok: false, reason, words })
  app.use(
    gate(holdings, 'kettle', (c) => c.req.header('X-Kettle-Key') ?? null, {
      wrongKey: (c) => c.json(no('wrong key', 'We do not know this word.')),
      mayNot: (c) => c.json(no('may not', 'This word lets you read only.')),
      slowDown: (c) => c.json(no('slow down', 'One at a time, please.'), 200, { 'Retry-After': '1' }),
    }),
  )
  app.use(async (c, next) =>
    c.req.path.includes(`/${KETTLE_ACCOUNT}/`) ? next() : c.json(no('no account', 'There is no such account.')),
  )
  const inside = new Hono()
  const list = (id: string | undefined) => holdings.list('kettle', id ?? '')
  const noList = no('no list', 'There is no list of that number.')
  inside.get('/whoami', (c) => c.json({ ok: true, owner: 'Cloudberry Hill at Tin Kettle' }))
  inside.get('/lists', (c) => {
    const { items } = pageOf(holdings.lists('kettle'), (Number(c.req.query('page') ?? 1) - 1) * 10, 10)
    return c.json({
      ok: true,
      rows: items.map(({ id, name, people }) => ({ number: id, title: name, readers: people.size })),
    })
  })
  inside.get('/questions', (c) => {
    const found = list(c.req.query('list'))
    if (found === null) return c.json(noList)
    const fields = holdings.fields('kettle', found)
    return c.json({
      ok: true,
      rows: fields.map(({ key, name, kind, isRequired }) => ({ code: key, words: name, sort: kind, must: isRequired })),
    })
  })
  inside.post('/questions', async (c) => {
    const form = await c.req.formData()
    const found = list(String(form.get('list')))
    if (found === null) return c.json(noList)
    return c.json({ ok: true, code: holdings.addField('kettle', found, String(form.get('words') ?? '')).key })
  })
  inside.get('/reader', (c) => {
    if (list(c.req.query('list')) === null) return c.json(noList)
    const person = holdings.person('kettle', c.req.query('list')!, c.req.query('email') ?? '')
    return c.json(
      person === null ? no('unknown', 'Nobody reads at this address.') : { ok: true, reader: shown(person) },
    )
  })
  inside.get('/readers', (c) => {
    const found = list(c.req.query('list'))
    if (found === null) return c.json(noList)
    const { items } = pageOf([...found.people.values()], (Number(c.req.query('page') ?? 1) - 1) * SIZE, SIZE)
    return c.json({ ok: true, rows: items.map(shown) })
  })
  inside.post('/reader/save', async (c) => {
    const form = await c.req.formData()
    const found = list(String(form.get('list')))
    if (found === null) return c.json(noList)
    const values: Record<string, string> = {}
    for (const [name, value] of form.entries()) {
      const key = /^answers\[(.+)\]$/.exec(name)?.[1]
      if (key !== undefined) values[key] = String(value)
    }
    const fields = holdings.fields('kettle', found)
    const missing = fields.find(({ key, isRequired }) => isRequired && !values[key])
    if (missing !== undefined) return c.json(no('unanswered', `“${missing.name}” has to be answered.`))
    // Answers to questions that were never asked are passed over without a word, as some services do.
    const known = Object.fromEntries(
      Object.entries(values).filter(([key]) => fields.some((field) => field.key === key)),
    )
    const labels = (name: string) =>
      String(form.get(name) ?? '')
        .split(',')
        .map((tag) => tag.trim())
        .filter(Boolean)
    const email = String(form.get('address') ?? '')
    const put = holdings.put('kettle', found, {
      email,
      values: known,
      tags: labels('labels'),
      formerTags: labels('unlabel'),
      asks: form.get('ask') === 'true',
    })
    if (put === null) return c.json(no('left', 'They left, and we do not write to them any more.'))
    if (put.isNew && put.person.state === 'waiting') asking.ask('kettle', found, put.person)
    return c.json({ ok: true, number: put.person.id })
  })
  inside.post('/reader/remove', async (c) => {
    const form = await c.req.formData()
    const isGone = holdings.drop('kettle', String(form.get('list')), String(form.get('address')))
    return c.json(isGone ? { ok: true } : no('unknown', 'Nobody reads at this address.'))
  })
  app.route(`/${KETTLE_ACCOUNT}`, inside)
  return app
}

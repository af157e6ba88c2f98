import { Hono } from 'hono'
import type { DocumentedService } from './documented-service'
import { isEmail, Shelf, stretch } from './shelf'

const SIZE = 2
type Details = { name: string; value: string }[]
const addressIn = (details: Details = []) => details.find(({ name }) => name === 'EMAIL')?.value
const othersIn = (details: Details = []) =>
  Object.fromEntries(details.filter(({ name }) => name !== 'EMAIL').map(({ name, value }) => [name, value]))

/** The address stands among the fields; many go at once, each with an outcome; pages are told by their whole address. */
export const saltLedger: DocumentedService = {
  name: 'Salt Ledger',
  path: 'salt',
  key: ['slt.77b0c4e1.d9'],
  shelf: new Shelf([
    { id: 'harbour', name: 'Harbour notices' },
    { id: 'pans', name: 'Salt pans' },
    { id: 'market', name: 'Market days' },
  ]),
  routes(shelf) {
    const app = new Hono()
    app.use(async (c, next) =>
      c.req.header('Authorization') === `Bearer ${saltLedger.key[0]}`
        ? next()
        : c.json({ error: { reason: 'This key is not ours.' } }, 401),
    )
    app.get('/me', (c) => c.json({ workspace: { id: 5, name: 'Cloudberry Hill at Salt Ledger' } }))
    app.get('/lists', (c) => {
      const from = Number(c.req.query('skip') ?? 0)
      const { items, more } = stretch(shelf.lists, from, SIZE)
      const next = more ? `${new URL(c.req.url).origin}/salt/lists?skip=${from + SIZE}` : null
      return c.json({ lists: items.map(({ id, name }) => ({ id, name, size: shelf.on(id).length })), paging: { next } })
    })
    app.get('/lists/:list/fields', (c) =>
      c.json({
        fields: [
          { name: 'EMAIL', label: 'Address', type: 'text', required: true },
          { name: 'GIVEN', label: 'First name', type: 'text', required: false },
        ],
      }),
    )
    app.get('/lists/:list/people/:email', (c) => {
      const person = shelf.find(c.req.param('email'), c.req.param('list'))
      if (person === undefined) return c.json({ error: { reason: 'Nobody has this address.' } }, 404)
      const fields = [
        { name: 'EMAIL', value: person.email },
        ...Object.entries(person.values).map(([name, value]) => ({ name, value })),
      ]
      return c.json({ person: { id: person.id, email: person.email, status: 'active', fields } })
    })
    app.post('/lists/:list/people', async (c) => {
      const { fields } = await c.req.json<{ fields?: Details }>()
      const email = addressIn(fields)
      if (!isEmail(email)) return c.json({ error: { reason: 'EMAIL has to be filled.' } }, 422)
      const person = shelf.put(email, c.req.param('list'), othersIn(fields))
      return c.json({ person: { id: person.id, status: 'active' } }, 201)
    })
    app.post('/lists/:list/people/batch', async (c) => {
      const { people = [] } = await c.req.json<{ people?: { fields?: Details }[] }>()
      if (shelf.isPicky) return c.json({ error: { reason: 'One of these has something wrong.' } }, 422)
      if (people.length > 50) return c.json({ error: { reason: 'Fifty at most.' } }, 413)
      return c.json({
        results: people.map(({ fields }) => {
          const email = addressIn(fields) ?? ''
          if (email.startsWith('refused'))
            return { email, outcome: 'refused', reason: 'We have had trouble with this address.' }
          shelf.put(email, c.req.param('list'), othersIn(fields))
          return { email, outcome: 'stored' }
        }),
      })
    })
    app.delete('/lists/:list/people/:email', (c) =>
      shelf.drop(shelf.find(c.req.param('email')), c.req.param('list'))
        ? c.body(null, 204)
        : c.json({ error: { reason: 'Nobody has this address.' } }, 404),
    )
    return app
  },
  help: (base) => `Salt Ledger

GET ${base}/me HTTP/1.1
Authorization: Bearer <token>

GET ${base}/lists HTTP/1.1
Authorization: Bearer <token>

The answer's paging.next is the address of the next page.

GET ${base}/lists/:list_id/fields HTTP/1.1
Authorization: Bearer <token>

POST ${base}/lists/:list_id/people HTTP/1.1
Authorization: Bearer <token>
Content-Type: application/json

{
  "fields": [
    { "name": "EMAIL", "value": "ada@mail.example" },
    { "name": "GIVEN", "value": "Ada" }
  ]
}

Up to fifty at once. Each has an outcome of its own, "stored" or "refused".

POST ${base}/lists/:list_id/people/batch HTTP/1.1
Authorization: Bearer <token>
Content-Type: application/json

{
  "people": [
    { "fields": [ { "name": "EMAIL", "value": "ada@mail.example" }, { "name": "GIVEN", "value": "Ada" } ] },
    { "fields": [ { "name": "EMAIL", "value": "ben@mail.example" } ] }
  ]
}

GET ${base}/lists/:list_id/people/:email HTTP/1.1
Authorization: Bearer <token>

DELETE ${base}/lists/:list_id/people/:email HTTP/1.1
Authorization: Bearer <token>
`,
}

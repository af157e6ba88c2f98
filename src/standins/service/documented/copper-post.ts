import { Hono } from 'hono'
import type { DocumentedService } from './documented-service'
import { isEmail, Shelf, type ShelfPerson, stretch } from './shelf'

const SIZE = 2

/** People stand beside the groups that they are in; tags go by number; pages are told by a `Link` header. */
export const copperPost: DocumentedService = {
  name: 'Copper Post',
  path: 'copper',
  key: ['cp_live_9d2b7741'],
  shelf: new Shelf([
    { id: '12', name: 'Shop news' },
    { id: '19', name: 'Workshop days' },
    { id: '27', name: 'Spare parts' },
  ]),
  routes(shelf) {
    const app = new Hono()
    app.use(async (c, next) =>
      c.req.header('X-Copper-Key') === copperPost.key[0] ? next() : c.json({ detail: 'Missing or wrong key' }, 401),
    )
    const shown = ({ id, email, values, tags, lists }: ShelfPerson) => ({
      ...{ id, email, state: 'active', attributes: values },
      groups: [...lists].map(Number),
      tags: shelf.tags.filter(({ name }) => tags.has(name)),
    })
    app.get('/v2/account', (c) => c.json({ name: 'Cloudberry Hill at Copper Post' }))
    app.get('/v2/groups', (c) => {
      const from = Number(c.req.query('from') ?? 0)
      const { items, more } = stretch(shelf.lists, from, SIZE)
      if (more)
        c.header('Link', `</copper/v2/groups?from=0>; rel="first", </copper/v2/groups?from=${from + SIZE}>; rel="next"`)
      return c.json(items.map(({ id, name }) => ({ id: Number(id), name, people_count: shelf.on(id).length })))
    })
    app.get('/v2/attributes', (c) =>
      c.json({
        attributes: [
          { name: 'FIRST', type: 'text' },
          { name: 'TOWN', type: 'text' },
        ],
      }),
    )
    app.get('/v2/tags', (c) => c.json({ tags: shelf.tags }))
    app.post('/v2/tags', async (c) => {
      const { name } = await c.req.json<{ name: string }>()
      const tag = { id: 100 + shelf.tags.length, name }
      shelf.tags.push(tag)
      return c.json({ tag }, 201)
    })
    app.get('/v2/people', (c) => {
      const person = shelf.find(c.req.query('email') ?? '')
      return c.json({ people: person === undefined ? [] : [shown(person)], total: person === undefined ? 0 : 1 })
    })
    app.post('/v2/people', async (c) => {
      const body = await c.req.json<{
        email?: string
        attributes?: Record<string, string>
        groups?: number[]
        tag_ids?: number[]
      }>()
      const unknown = (body.tag_ids ?? []).find((id) => !shelf.tags.some((tag) => tag.id === id))
      if (!isEmail(body.email) || unknown !== undefined)
        return c.json({ detail: unknown === undefined ? 'That is no address' : `No tag ${unknown}` }, 422)
      const names = (body.tag_ids ?? []).flatMap((id) => shelf.tags.find((tag) => tag.id === id)?.name ?? [])
      const groups = (body.groups ?? []).map(String)
      if (groups.length === 0 || groups.some((id) => shelf.list(id) === undefined))
        return c.json({ detail: 'No such group' }, 422)
      return c.json(shown(groups.map((id) => shelf.put(body.email!, id, body.attributes ?? {}, names)).at(-1)!), 201)
    })
    app.delete('/v2/people/:id', (c) => {
      const person = shelf.byId(c.req.param('id'))
      if (person === undefined) return c.json({ detail: 'Nobody' }, 404)
      shelf.people.delete(person.email.toLowerCase())
      return c.body(null, 204)
    })
    return app
  },
  help: (base) => `Copper Post for programmers

All requests carry your key:

    X-Copper-Key: <YOUR_KEY>

# Who am I
curl ${base}/v2/account -H "X-Copper-Key: $COPPER_KEY"

# Groups (two a page; the Link header names the next page)
curl ${base}/v2/groups -H "X-Copper-Key: $COPPER_KEY"

# Attributes
curl ${base}/v2/attributes -H "X-Copper-Key: $COPPER_KEY"

# Tags
curl ${base}/v2/tags -H "X-Copper-Key: $COPPER_KEY"

# Make a tag
curl ${base}/v2/tags -H "X-Copper-Key: $COPPER_KEY" --json '{"name": "autumn"}'

# Add a person, or change one
curl -X POST "${base}/v2/people" \\
  -H "X-Copper-Key: $COPPER_KEY" \\
  -H "Content-Type: application/json" \\
  -d "{\\"email\\": \\"ada@mail.example\\", \\"attributes\\": {\\"FIRST\\": \\"Ada\\"}, \\"groups\\": [12], \\"tag_ids\\": [3]}"

# Find a person
curl -G "${base}/v2/people" --data-urlencode "email=ada@mail.example" -H "X-Copper-Key: $COPPER_KEY"

# Delete a person
curl -X DELETE ${base}/v2/people/{person_id} -H "X-Copper-Key: $COPPER_KEY"
`,
}

import { Hono } from 'hono'
import type { DocumentedService } from './documented-service'
import { isEmail, Shelf, stretch } from './shelf'

const SIZE = 2

/** A description file in JSON; the next page's cursor comes in a header of the answer. */
export const foghornDispatch: DocumentedService = {
  name: 'Foghorn Dispatch',
  path: 'foghorn',
  key: ['fh_4c1d8a52e6'],
  shelf: new Shelf([
    { id: '501', name: 'Shipping forecast' },
    { id: '502', name: 'Lamp room' },
    { id: '503', name: 'Keepers' },
  ]),
  routes(shelf) {
    const app = new Hono()
    app.use(async (c, next) =>
      c.req.header('Authorization') === `Bearer ${foghornDispatch.key[0]}`
        ? next()
        : c.json({ errors: [{ message: 'Unknown token.' }] }, 401),
    )
    app.get('/whoami', (c) => c.json({ login: 'keeper', displayName: 'Cloudberry Hill at Foghorn' }))
    app.get('/audiences', (c) => {
      const from = Number(c.req.query('cursor') ?? 0)
      const { items, more } = stretch(shelf.lists, from, SIZE)
      if (more) c.header('X-Next-Cursor', String(from + SIZE))
      return c.json({ audiences: items.map(({ id, name }) => ({ audienceId: Number(id), title: name })) })
    })
    app.get('/audiences/:id/contacts/:email', (c) => {
      const person = shelf.find(c.req.param('email'), c.req.param('id'))
      return person === undefined
        ? c.json({ errors: [{ message: 'No such contact.' }] }, 404)
        : c.json({ contact: { email: person.email, status: 'subscribed', ...person.values } })
    })
    app.put('/audiences/:id/contacts/:email', async (c) => {
      const body = await c.req.json<Record<string, string>>()
      if (!isEmail(c.req.param('email')) || body.source !== 'api')
        return c.json({ errors: [{ message: 'The address, or “source”, is wrong.' }] }, 422)
      const { firstName = '', town = '' } = body
      shelf.put(c.req.param('email'), c.req.param('id'), { firstName, town })
      return c.json({ contact: { email: c.req.param('email'), status: 'subscribed' } })
    })
    app.delete('/audiences/:id/contacts/:email', (c) =>
      shelf.drop(shelf.find(c.req.param('email')), c.req.param('id'))
        ? c.body(null, 204)
        : c.json({ errors: [{ message: 'No such contact.' }] }, 404),
    )
    return app
  },
  help: (base) =>
    `Foghorn Dispatch: the description file is ${base}/openapi.json. Tokens are made under Profile > Tokens.\n`,
  description(base) {
    const audience = { name: 'audienceId', in: 'path', required: true, schema: { type: 'integer' } }
    const email = { name: 'email', in: 'path', required: true, schema: { type: 'string', format: 'email' } }
    const json = (schema: object, example?: object) => ({ 'application/json': { schema, ...(example && { example }) } })
    const contact = {
      type: 'object',
      required: ['source'],
      properties: {
        firstName: { type: 'string', example: 'Ada' },
        town: { type: 'string' },
        nameOfBoat: { type: 'string' },
        source: { type: 'string', enum: ['api', 'form'] },
      },
    }
    return JSON.stringify({
      openapi: '3.0.3',
      info: { title: 'Foghorn Dispatch', version: '4' },
      servers: [{ url: base }],
      security: [{ token: [] }],
      components: { securitySchemes: { token: { type: 'http', scheme: 'bearer' } }, schemas: { Contact: contact } },
      paths: {
        '/whoami': {
          get: {
            summary: 'Your own account',
            responses: {
              200: {
                description: 'You',
                content: json({ type: 'object' }, { login: 'keeper', displayName: 'Lamp and Sons' }),
              },
            },
          },
        },
        '/audiences': {
          get: {
            summary: 'List audiences',
            parameters: [{ name: 'cursor', in: 'query', schema: { type: 'string' } }],
            responses: {
              200: {
                description: 'Audiences',
                content: json({ type: 'object' }, { audiences: [{ audienceId: 1, title: 'Fog' }] }),
              },
            },
          },
        },
        '/audiences/{audienceId}/contacts/{email}': {
          parameters: [audience, email],
          get: {
            summary: 'Look a contact up',
            responses: {
              200: {
                description: 'The contact',
                content: json(
                  { type: 'object' },
                  { contact: { email: 'ada@mail.example', status: 'subscribed', firstName: 'Ada' } },
                ),
              },
              404: { description: 'Nobody' },
            },
          },
          put: {
            summary: 'Add or change a contact',
            requestBody: { content: json({ $ref: '#/components/schemas/Contact' }) },
            responses: { 200: { description: 'Stored' } },
          },
          delete: { summary: 'Remove a contact', responses: { 204: { description: 'Gone' } } },
        },
        '/dispatches': { get: { summary: 'What was sent', responses: { 200: { description: 'Dispatches' } } } },
      },
    })
  },
}

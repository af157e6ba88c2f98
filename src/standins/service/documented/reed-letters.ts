import { Hono } from 'hono'
import type { DocumentedService } from './documented-service'
import { isEmail, Shelf } from './shelf'

/** A description file in YAML; the key is in two parts, each in a header of its own. */
export const reedLetters: DocumentedService = {
  name: 'Reed Letters',
  path: 'reed',
  key: ['reed-id-204', 'reed-secret-b1946ac9'],
  shelf: new Shelf([
    { id: 'L1', name: 'River letter' },
    { id: 'L2', name: 'Members of the weir' },
  ]),
  routes(shelf) {
    const app = new Hono()
    app.use(async (c, next) =>
      c.req.header('X-Reed-Id') === reedLetters.key[0] && c.req.header('X-Reed-Secret') === reedLetters.key[1]
        ? next()
        : c.json({ code: 'key', message: 'Id or secret is wrong.' }, 401),
    )
    app.get('/v1/account', (c) => c.json({ id: 204, name: 'Cloudberry Hill at Reed Letters' }))
    app.get('/v1/newsletters', (c) =>
      c.json({ data: shelf.lists.map(({ id, name }) => ({ id, name, subscriber_count: shelf.on(id).length })) }),
    )
    app.get('/v1/newsletters/:id/subscribers', (c) => {
      const person = shelf.find(c.req.query('email') ?? '', c.req.param('id'))
      return c.json({
        data:
          person === undefined
            ? []
            : [
                {
                  id: person.id,
                  email: person.email,
                  status: 'active',
                  details: person.values,
                  tags: [...person.tags],
                },
              ],
      })
    })
    app.post('/v1/newsletters/:id/subscribers', async (c) => {
      const {
        email,
        details = {},
        tags = [],
      } = await c.req.json<{ email?: string; details?: Record<string, string>; tags?: string[] }>()
      if (!isEmail(email)) return c.json({ code: 'email', message: 'This is no address we can write to.' }, 422)
      const person = shelf.put(email, c.req.param('id'), details, tags)
      return c.json({ id: person.id, email, status: 'active' }, 201)
    })
    app.delete('/v1/newsletters/:id/subscribers/:subscriberId', (c) =>
      shelf.drop(shelf.byId(c.req.param('subscriberId')), c.req.param('id'))
        ? c.body(null, 204)
        : c.json({ code: 'nobody', message: 'No such subscriber.' }, 404),
    )
    return app
  },
  help: (base) =>
    `Reed Letters has a description file: ${base}/openapi.yaml\nYour id and your secret stand under Settings > Programs.\n`,
  description: (base) => `openapi: 3.1.0
info:
  title: Reed Letters
  version: '1'
servers:
  - url: ${base}/v1
security:
  - reedId: []
    reedSecret: []
paths:
  /account:
    get:
      operationId: getAccount
      summary: Who the key belongs to
      responses:
        '200':
          description: The account
          content:
            application/json:
              schema: { $ref: '#/components/schemas/Account' }
  /newsletters:
    get:
      operationId: listNewsletters
      summary: All newsletters
      responses:
        '200':
          description: Newsletters
          content:
            application/json:
              schema:
                type: object
                properties:
                  data: { type: array, items: { $ref: '#/components/schemas/Newsletter' } }
    post:
      operationId: createNewsletter
      summary: Begin a newsletter
      requestBody:
        content:
          application/json:
            schema: { $ref: '#/components/schemas/Newsletter' }
      responses:
        '201': { description: Made }
  /newsletters/{newsletterId}/subscribers:
    parameters:
      - { name: newsletterId, in: path, required: true, schema: { type: string } }
    get:
      operationId: findSubscribers
      summary: Find subscribers by their address
      parameters:
        - { name: email, in: query, schema: { type: string, format: email } }
      responses:
        '200':
          description: Who was found
          content:
            application/json:
              schema:
                type: object
                properties:
                  data: { type: array, items: { $ref: '#/components/schemas/Subscriber' } }
    post:
      operationId: addSubscriber
      summary: Add a subscriber, or change one
      requestBody:
        required: true
        content:
          application/json:
            schema: { $ref: '#/components/schemas/NewSubscriber' }
      responses:
        '201':
          description: Added
          content:
            application/json:
              schema: { $ref: '#/components/schemas/Subscriber' }
  /newsletters/{newsletterId}/subscribers/{subscriberId}:
    parameters:
      - { name: newsletterId, in: path, required: true, schema: { type: string } }
      - { name: subscriberId, in: path, required: true, schema: { type: string } }
    delete:
      operationId: removeSubscriber
      summary: Take a subscriber off
      responses:
        '204': { description: Gone }
  /issues:
    get: { operationId: listIssues, summary: Issues that were sent, responses: { '200': { description: Issues } } }
components:
  securitySchemes:
    reedId: { type: apiKey, in: header, name: X-Reed-Id }
    reedSecret: { type: apiKey, in: header, name: X-Reed-Secret }
  schemas:
    Account:
      type: object
      properties: { id: { type: integer }, name: { type: string } }
    Newsletter:
      type: object
      required: [name]
      properties:
        id: { type: string, readOnly: true }
        name: { type: string }
        subscriber_count: { type: integer, readOnly: true }
    NewSubscriber:
      type: object
      required: [email]
      properties:
        email: { type: string, format: email }
        details:
          type: object
          properties: { first_name: { type: string }, town: { type: string } }
        tags: { type: array, items: { type: string } }
        says_hello: { type: boolean, default: true }
    Subscriber:
      allOf:
        - $ref: '#/components/schemas/NewSubscriber'
        - type: object
          properties:
            id: { type: string }
            status: { type: string, enum: [active, left, bounced] }
`,
}

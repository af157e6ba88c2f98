import { readFileSync, readdirSync } from 'node:fs'
import { dirname, join } from 'node:path'
import {
  guessReading,
  LONGEST_DESCRIPTION,
  neededOf,
  offeredFor,
  readDescription,
  refusalIn,
  serviceFrom,
  understand,
  withPressed,
} from '.'

/*
 * The OpenAPI Specification's published example documents (petstore, petstore-expanded, uspto, link-example and others), as
 * `@readme/oas-examples` carries them.
 */
const examples = dirname(require.resolve('@readme/oas-examples/package.json'))
const published = ['3.0/json', '3.0/yaml', '3.1/json', '3.1/yaml'].flatMap((folder) =>
  readdirSync(join(examples, folder))
    .filter((name) => /\.(?:json|yaml)$/.test(name))
    .map((name) => [`${folder}/${name}`, readFileSync(join(examples, folder, name), 'utf8')] as const),
)

test.each(published)(
  'the published example %s is read, each of its requests as one that was pasted',
  async (_, text) => {
    const reading = await readDescription(text)
    if (!reading.ok) {
      // Some are about webhooks or errors alone.
      expect(reading.message).toMatch(/describes no request|leads nowhere/)
      return
    }
    for (const operation of reading.operations) {
      const understood = understand(operation.text)
      expect(understood.ok && understood.requests).toHaveLength(1)
      const [method] = operation.name.split(' ')
      expect(understood.ok && understood.requests[0]!.request.method).toBe(method)
    }
  },
)

test('what the petstore example offers: method, address and key as its specification says', async () => {
  const text = readFileSync(join(examples, '3.0/json/petstore.json'), 'utf8')
  const reading = await readDescription(text)
  const document = JSON.parse(text) as { paths: Record<string, Record<string, unknown>> }
  const described = Object.entries(document.paths).flatMap(([path, item]) =>
    Object.keys(item)
      .filter((method) => /^(?:get|post|put|patch|delete)$/.test(method))
      .map((method) => `${method.toUpperCase()} ${path}`),
  )
  expect(reading.ok && reading.operations.map(({ name }) => name).toSorted()).toEqual(described.toSorted())
})

const withPaths = (paths: object, more: object = {}) =>
  JSON.stringify({
    openapi: '3.1.0',
    info: { title: 'T', version: '1' },
    servers: [{ url: 'https://api.x.example' }],
    paths,
    ...more,
  })
const nested = (depth: number): unknown => (depth === 0 ? 1 : { a: nested(depth - 1) })

test.each([
  ['a page', '<!doctype html><script>alert(1)</script>', /page or XML/],
  ['XML with entities', '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaa">]><x>&a;</x>', /page or XML/],
  ['nothing', ' \n', /empty/],
  ['broken JSON', '{"openapi": "3.0.0",', /cannot be read as JSON/],
  ['broken YAML', 'openapi: 3.0.0\n  paths: [', /cannot be read as YAML/],
  ['an older kind', '{"swagger": "2.0", "paths": {}}', /older kind/],
  ['a newer kind', '{"openapi": "4.0.0", "paths": {}}', /3\.0 and 3\.1 are read/],
  ['something else', '{"a": 1}', /no description file/],
  ['no request', withPaths({}), /describes no request/],
  ['too long', 'x'.repeat(LONGEST_DESCRIPTION + 1), /MB; up to/],
  ['too deep', withPaths({ '/a': { get: { responses: {}, 'x-deep': nested(70) } } }), /cannot be read as JSON/],
  [
    'YAML that grows',
    `openapi: 3.0.0\na: &a [x,x,x,x,x,x,x,x,x]\nb: &b [*a,*a,*a,*a,*a,*a,*a,*a,*a]\nc: &c [*b,*b,*b,*b,*b,*b,*b,*b,*b]\nd: &d [*c,*c,*c,*c,*c,*c,*c,*c,*c]\ne: &e [*d,*d,*d,*d,*d,*d,*d,*d,*d]`,
    /cannot be read as YAML/,
  ],
])('%s is refused, and why', async (_, text, says) => {
  const reading = await readDescription(text)
  expect(!reading.ok && reading.message).toMatch(says)
})

/** Schemas of which each names the next so many times. */
function doubling(levels: number, times: number, beside: object = {}): string {
  const schemas = Object.fromEntries(
    Array.from({ length: levels }, (_, level) => [
      `L${level}`,
      {
        type: 'object',
        properties: Object.fromEntries(
          Array.from({ length: times }, (_, at) => [
            `email${at}`,
            level + 1 < levels ? { $ref: `#/components/schemas/L${level + 1}`, ...beside } : { type: 'string' },
          ]),
        ),
      },
    ]),
  )
  const schema = { $ref: '#/components/schemas/L0' }
  const content = { 'application/json': { schema } }
  return withPaths(
    { '/people': { post: { requestBody: { content }, responses: { 200: { content } } } } },
    { components: { schemas } },
  )
}
test.each([
  ['two ways a level', doubling(60, 2)],
  ['two ways a level, each with words of its own', doubling(60, 2, { description: 'The next one.' })],
  ['sixty ways a level', doubling(8, 60)],
])('shared references are read as fast as the file is long: %s', async (_, text) => {
  const reading = await readDescription(text)
  if (!reading.ok) throw new Error(reading.message)
  expect(reading.operations).toHaveLength(1)
  expect(reading.operations[0]!.answer!.length).toBeLessThan(400_000)
})

test.each([
  ['nowhere', '#/components/schemas/None', /leads nowhere: #\/components\/schemas\/None/],
  ['to itself', '#/paths/~1a', /leads nowhere/],
  ['into what objects have of themselves', '#/__proto__/toString', /leads nowhere/],
])('a reference that leads %s is told', async (_, $ref, says) => {
  const reading = await readDescription(withPaths({ '/a': { $ref } }))
  expect(!reading.ok && reading.message).toMatch(says)
})

test('references that lead out of the file are named and not followed; those that go round in it end', async () => {
  const reading = await readDescription(
    withPaths(
      {
        '/people': {
          post: {
            requestBody: { content: { 'application/json': { schema: { $ref: '#/components/schemas/Person' } } } },
            responses: { 200: { $ref: 'file:///etc/passwd' }, 201: { $ref: 'http://127.0.0.1:1/x.json#/a' } },
          },
        },
      },
      {
        components: {
          schemas: {
            Person: {
              type: 'object',
              required: ['email', 'friend'],
              properties: { email: { type: 'string' }, friend: { $ref: '#/components/schemas/Person' } },
            },
          },
        },
      },
    ),
  )
  expect(reading.ok && reading.unread.join()).toMatch(
    /file:\/\/\/etc\/passwd.*127\.0\.0\.1|127\.0\.0\.1.*file:\/\/\/etc\/passwd/,
  )
  expect(reading.ok && reading.operations).toHaveLength(1)
})

test('of several requests for a step the likeliest comes first, with why', async () => {
  const answer = { responses: { 200: { description: '' } } }
  const reading = await readDescription(
    withPaths({
      '/reports/lists/{id}/opens': { get: answer },
      '/lists': { get: { ...answer, summary: 'All lists' } },
      '/folders/lists': { get: answer },
    }),
  )
  const [first] = reading.ok ? offeredFor('lists', reading.operations) : []
  expect(first).toMatchObject({
    name: 'GET /lists',
    step: 'lists',
    why: expect.stringContaining('All lists') as string,
  })
})

describe('values that are taken for what they are not', () => {
  const text = `curl https://api.x.example/teams -H "X-Key: $KEY"
curl -X POST https://api.x.example/teams/7/join -H "X-Key: $KEY" --json '{"who": "ada@mail.example", "nick": "Ada"}'`

  test('are corrected by their place in the text', () => {
    const before = understand(text)
    expect(before.ok && before.requests.map(({ step }) => step)).toEqual([null, 'put'])
    const corrected = understand(text, { roles: { 1: { 'path/1': 'list' } }, steps: { 0: 'lists' } })
    if (!corrected.ok) throw new Error(corrected.message)
    const made = serviceFrom({ name: '', origin: '', requests: neededOf(corrected.requests), readings: {} })
    expect(made.ok && made.service).toMatchObject({
      name: 'X',
      base: 'https://api.x.example',
      key: { way: 'header', name: 'X-Key' },
    })
  })

  test('every mark stands where its value stands', () => {
    const understood = understand(text)
    if (!understood.ok) throw new Error(understood.message)
    for (const { pieces } of understood.requests)
      for (const { span, value, shape } of pieces)
        if (span !== null && shape === 'text')
          expect([value, value.split(' ').at(-1)]).toContain(text.slice(span.start, span.end))
    expect(
      understood.requests.flatMap(({ pieces }) => pieces.filter(({ span }) => span === null).map(({ id }) => id)),
    ).toEqual(['json'])
  })
})

test.each([
  [
    'https://a.example/x and https://b.example/y',
    'GET https://a.example/lists\n\nPOST https://b.example/people\n\n{"email":"a@b.example"}',
    /go to/,
  ],
  [
    'no key',
    'GET https://a.example/lists\n\nPOST https://a.example/people\n\n{"email":"a@b.example"}',
    /where the key goes/,
  ],
  ['nobody is put', 'GET https://a.example/lists\nX-Key: k', /puts somebody/],
  ['no lists', 'POST https://a.example/people\nX-Key: k\n\n{"email":"a@b.example"}', /which lists/],
  ['no host', 'GET /lists\nX-Key: k\n\nPOST /people\nX-Key: k\n\n{"email":"a@b.example"}', /where the service stands/],
])('what is missing is said: %s', (_, text, says) => {
  const understood = understand(text)
  const made = understood.ok
    ? serviceFrom({ name: '', origin: '', requests: neededOf(understood.requests), readings: {} })
    : null
  expect(made?.ok === false && made.problem).toMatch(says)
})

test('pages of many are recognised by what an answer tells and the request can say', () => {
  const lists = { lists: [{ id: 1, name: 'A' }] }
  const read = { items: '/lists', read: { id: '/id', name: '/name' } }
  const body = (more: object) => JSON.stringify({ ...lists, ...more })
  expect(guessReading('lists', { body: body({ meta: { next_cursor: 'c' } }) }, { asked: ['cursor'] })).toEqual({
    ...read,
    next: { cursor: '/meta/next_cursor' },
  })
  expect(guessReading('lists', { body: body({ paging: { next: 'https://x.example/2' } }) })).toEqual({
    ...read,
    next: { address: '/paging/next' },
  })
  expect(guessReading('lists', { body: body({}), headers: { link: '<https://x.example/2>; rel="next"' } })).toEqual({
    ...read,
    next: { link: true },
  })
  expect(guessReading('lists', { body: body({}), headers: { 'x-next-cursor': 'c' } }, { asked: ['cursor'] })).toEqual({
    ...read,
    next: { header: 'x-next-cursor' },
  })
  expect(guessReading('lists', { body: body({}) }, { asked: ['page'] })).toEqual({ ...read, next: { page: true } })
  expect(guessReading('lists', { body: body({}) })).toEqual(read)
})

test('a value that is pressed becomes its JSON Pointer, within the items where there are many', () => {
  expect(withPressed({}, 'lists', 'name', '/data/0/attributes/title')).toEqual({
    items: '/data',
    read: { name: '/attributes/title' },
  })
  expect(withPressed({ items: '/data', read: { id: '/id' } }, 'lists', 'name', '/data/3/title')).toEqual({
    items: '/data',
    read: { id: '/id', name: '/title' },
  })
  expect(withPressed({ items: '/data', read: { id: '/id' } }, 'lists', 'name', '/rows/0/title')).toEqual({
    items: '/rows',
    read: { name: '/title' },
  })
  expect(withPressed({ read: { email: '/e' } }, 'find', 'status', '/person/state')).toEqual({
    read: { email: '/e', status: '/person/state' },
  })
})

test('a service that says 200 to everything tells yes from no by a value', () => {
  const at = (body: object, status = 200) => ({ status, body: JSON.stringify(body) })
  expect(refusalIn(at({ ok: true, a: 1 }), at({ ok: false, words: 'x' }))).toEqual({
    at: '/ok',
    is: false,
    means: 'refused',
  })
  expect(refusalIn(at({ result: 'fine' }), at({ result: 'error' }))).toEqual({
    at: '/result',
    is: 'error',
    means: 'refused',
  })
  expect(refusalIn(at({ ok: true }), at({ ok: false }, 404))).toBeNull()
  expect(refusalIn(at({ people: [1] }), at({ people: [] }))).toBeNull()
})

test.each([
  '$'.repeat(60_000),
  '"'.repeat(60_000),
  "'a".repeat(30_000),
  '\\'.repeat(60_000),
  '<'.repeat(60_000),
  '{'.repeat(60_000),
  '&'.repeat(60_000),
  '`'.repeat(60_000),
])('a hostile command line ends: %.10s', (noise) => {
  expect(understand(`curl https://a.example/x -d ${noise}`)).toBeDefined()
  expect(understand(`POST https://a.example/x\n\n${noise}`)).toBeDefined()
})

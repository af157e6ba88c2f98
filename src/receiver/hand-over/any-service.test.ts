import type { AddressInfo } from 'node:net'
import { createServer, type Server } from 'node:http'
import { getRequestListener } from '@hono/node-server'
import { type HandOver, type RequestName, type ServiceFile, textAt } from '#core/connection'
import {
  type AnswerReading,
  guessReading,
  guessSaid,
  neededOf,
  offeredFor,
  outcomesBy,
  readDescription,
  refusalIn,
  type Role,
  serviceFrom,
  understand,
} from '#core/example'
import { documentedServices, type DocumentedService, serviceApp, Holdings } from '../../../tests/service-ground'
import { openClient } from './client'
import { handManyToApi, handToApi, listedBy, lookUp } from './hand'
import type { Talk } from './talk'

/*
 * Each service is described by its documentation alone, as real ones are; a working connection is made of that by what the
 * screen does: examples are read, the key is tried, answers are looked at, and a made-up person goes there.
 */

let server: Server
let address = ''
beforeAll(async () => {
  const app = serviceApp(new Holdings(null), { ask: () => {}, answered: () => null }, () => {})
  server = createServer(getRequestListener(app.fetch))
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
afterAll(() => server.close())

const STEPS: readonly RequestName[] = ['account', 'lists', 'fields', 'tags', 'makeTag', 'put', 'putMany', 'find', 'off']

/** The text that is read: the help page, or what a description offers as the likeliest. */
async function documentationOf(service: DocumentedService): Promise<string> {
  const base = `${address}/${service.path}`
  if (service.description === undefined) return service.help(base)
  const described = await readDescription(service.description(base))
  if (!described.ok) throw new Error(described.message)
  return STEPS.flatMap((step) => {
    const [likeliest] = offeredFor(step, described.operations)
    return likeliest?.step === step ? [likeliest.text] : []
  }).join('\n\n')
}

async function connected(service: DocumentedService): Promise<{ talk: Talk; handOver: HandOver }> {
  const text = await documentationOf(service)
  const understood = understand(text)
  if (!understood.ok) throw new Error(understood.message)
  const requests = neededOf(understood.requests)
  const readings: Partial<Record<RequestName, AnswerReading>> = {}
  let answers: ServiceFile['answers']
  let said: string[] = []
  let statuses: ServiceFile['statuses']
  const made = (): ServiceFile => {
    const file = serviceFrom({ name: service.name, origin: '', requests, readings, said })
    if (!file.ok) throw new Error(file.problem)
    return { ...file.service, ...(answers && { answers }), ...(statuses && { statuses }) }
  }
  const client = openClient([address], () => Date.now())
  const key = { text: service.key.join(':'), origins: [address] }
  const talk = (): Talk => ({ way: { kind: 'api', service: made(), asked: {} }, key, client })
  const ask = async (step: RequestName, values: Record<string, string | readonly string[]> = {}, email = '') => {
    if (made().requests[step] === undefined) return null
    const asked = await client.ask(talk().way, step, values, { key })
    const { answer } = asked.exchange!
    const roles = Object.values(requests.find((one) => one.step === step)!.roles) as Role[]
    const putRoles = Object.values(requests.find((one) => one.step === 'put')!.roles) as Role[]
    readings[step] = {
      ...readings[step],
      ...guessReading(step, answer!, { email, asked: step === 'find' ? putRoles : roles }),
    }
    return answer!
  }
  await ask('account')
  await ask('lists')
  const { items: lists } = await listedBy(talk(), 'lists', {})
  await ask('fields', { list: lists[0]!.id })
  await ask('tags')
  const email = 'try@askbox-made-up.example'
  const absent = await ask(
    'find',
    { list: lists[0]!.id, email: 'nobody@askbox-made-up.example' },
    'nobody@askbox-made-up.example',
  )
  if (absent !== null) said = [guessSaid(absent)].filter((pointer) => pointer !== null)
  await ask('put', { list: lists[0]!.id, email, tags: [] }, email)
  const there = await ask('find', { list: lists[0]!.id, email }, email)
  // Somebody who was put there just now is on the list, whatever it calls that.
  const word = there === null ? null : textAt(JSON.parse(there.body), readings.find?.read?.status)
  if (word !== null) statuses = { [word]: 'on' }
  const rule = there === null || absent === null ? null : refusalIn(there, absent)
  if (rule !== null) {
    answers = [rule]
    for (const step of ['find', 'off'] as const)
      readings[step] = { ...readings[step], answers: [{ ...rule, means: 'absent' }] }
  }
  const handOver = {
    target: { id: lists[0]!.id, name: lists[0]!.name },
    fields: [],
    confirmsThere: false,
    sendsTags: true,
  } as unknown as HandOver
  await handToApi(talk(), handOver, { state: 'off', email })
  return { talk: talk(), handOver }
}

const facts: Record<string, { account: string; lists: string[]; field: string; hasTags: boolean }> = {
  marsh: {
    account: 'Cloudberry Hill at Marsh Gazette',
    lists: ['Weekly gazette', 'Tide tables', 'Bird counts'],
    field: 'GIVEN',
    hasTags: true,
  },
  copper: {
    account: 'Cloudberry Hill at Copper Post',
    lists: ['Shop news', 'Workshop days', 'Spare parts'],
    field: 'FIRST',
    hasTags: true,
  },
  owl: {
    account: 'Cloudberry Hill at Owl Courier',
    lists: ['Night post', 'Day post', 'Owls only'],
    field: 'first',
    hasTags: true,
  },
  salt: {
    account: 'Cloudberry Hill at Salt Ledger',
    lists: ['Harbour notices', 'Salt pans', 'Market days'],
    field: 'GIVEN',
    hasTags: false,
  },
  reed: {
    account: 'Cloudberry Hill at Reed Letters',
    lists: ['River letter', 'Members of the weir'],
    field: 'first_name',
    hasTags: true,
  },
  foghorn: {
    account: 'Cloudberry Hill at Foghorn',
    lists: ['Shipping forecast', 'Lamp room', 'Keepers'],
    field: 'firstName',
    hasTags: false,
  },
}

test.each(documentedServices.map((service) => [service.name, service] as const))(
  '%s becomes a working connection: asked who one is, all its lists read, somebody put there, seen and taken off',
  async (_, service) => {
    const { account, lists, field, hasTags } = facts[service.path]!
    const { talk, handOver } = await connected(service)
    const { service: file } = talk.way
    const who = await talk.client.ask(talk.way, 'account', {}, talk)
    expect(JSON.stringify(who.json)).toContain(account)
    const read = await listedBy(talk, 'lists', {})
    expect(read.items.map((list) => (list as { name: string }).name)).toEqual(lists)
    const fields = await listedBy(talk, 'fields', { list: handOver.target!.id })
    expect(fields.items.map((one) => (one as { key: string }).key)).toContain(field)

    const email = 'ada+new@visitor.example'
    const tags = hasTags ? ['autumn'] : []
    const wanted = { state: 'there' as const, email, values: { [field]: 'Ada ✓ “x”' }, tags }
    expect(await handToApi(talk, handOver, wanted)).toMatchObject({ means: 'done' })
    const held = service.shelf.find(email, handOver.target!.id)
    expect(held).toMatchObject({ email, values: { [field]: 'Ada ✓ “x”' } })
    expect([...held!.tags]).toEqual(tags)
    const found = await lookUp(talk, handOver.target!.id, email)
    expect(found).toMatchObject({ ok: true, member: { email, status: 'on' } })
    // Once more is no harm, and somebody else is nobody.
    expect(await handToApi(talk, handOver, wanted)).toMatchObject({ means: 'done' })
    expect(await lookUp(talk, handOver.target!.id, 'nobody@visitor.example')).toMatchObject({ ok: true, member: null })
    expect(await handToApi(talk, handOver, { state: 'off', email })).toMatchObject({ means: 'done' })
    expect(service.shelf.find(email)).toBeUndefined()
    expect(await handToApi(talk, handOver, { state: 'off', email })).toMatchObject({ means: 'done' })
    // What it makes is a file that stands for itself, without a key; nor is one in what is shown of a request and its answer.
    const shown = JSON.stringify([file, who.exchange])
    for (const part of service.key) {
      expect(shown).not.toContain(part)
      expect(shown).not.toContain(Buffer.from(`gazette:${part}`).toString('base64'))
    }
    expect(file.spelled?.dates).toBe(service.path === 'owl' ? 'DD/MM/YYYY' : undefined)
  },
)

test('many go in one request, each with an outcome of their own', async () => {
  const service = documentedServices.find(({ path }) => path === 'salt')!
  const { talk, handOver } = await connected(service)
  const file = talk.way.service
  const withOutcomes: ServiceFile = {
    ...file,
    requests: {
      ...file.requests,
      putMany: {
        ...file.requests.putMany!,
        items: '/results',
        read: { email: '/email' },
        outcomes: outcomesBy({ email: 'x@visitor.example', outcome: 'stored' }),
      },
    },
    said: ['/reason'],
  }
  const people = ['ada@visitor.example', 'refused@visitor.example', 'ben@visitor.example'].map((email) => ({
    wanted: { state: 'there' as const, email, values: { GIVEN: 'X' }, tags: null },
    before: { keys: [], tags: [] },
  }))
  const outcomes = await handManyToApi({ ...talk, way: { ...talk.way, service: withOutcomes } }, handOver, people)
  expect(outcomes!.map(({ means, said }) => [means, said])).toEqual([
    ['done', expect.any(String)],
    ['refused', 'We have had trouble with this address.'],
    ['done', expect.any(String)],
  ])
  expect(service.shelf.find('ben@visitor.example', 'harbour')?.values).toEqual({ GIVEN: 'X' })
})

test('an address that names what is not known is never sent: without the id of somebody it would mean everybody', async () => {
  const { talk } = await connected(documentedServices.find(({ path }) => path === 'copper')!)
  for (const id of [null, '']) {
    const asked = await talk.client.ask(talk.way, 'off', { list: '12', email: 'ada@visitor.example', id }, talk)
    expect(asked).toMatchObject({ means: 'cannot', said: expect.stringContaining('“id”') as string, exchange: null })
  }
})

test('a tag that is missing there is made once, however many go at the same time', async () => {
  const service = documentedServices.find(({ path }) => path === 'copper')!
  const { talk, handOver } = await connected(service)
  const emails = ['ada', 'ben', 'cleo', 'dora'].map((name) => `${name}@visitor.example`)
  const outcomes = await Promise.all(
    emails.map((email) => handToApi(talk, handOver, { state: 'there', email, values: {}, tags: ['all at once'] })),
  )
  expect(outcomes.map(({ means }) => means)).toEqual(['done', 'done', 'done', 'done'])
  expect(service.shelf.tags.filter(({ name }) => name === 'all at once')).toHaveLength(1)
  for (const email of emails) expect([...service.shelf.find(email)!.tags]).toEqual(['all at once'])
})

test('a long answer is shown as JSON still, with its places where they were, and without the key', async () => {
  const key = 'mg-long-0451-key'
  const rows = Array.from({ length: 2_000 }, (_, at) => ({
    id: at,
    name: `List ${at}`,
    echo: `${'x'.repeat(195)}${key}`,
  }))
  const long = createServer((_, response) => response.end(JSON.stringify({ deep: { rows } })))
  await new Promise<void>((resolve) => long.listen(0, '127.0.0.1', resolve))
  const base = `http://127.0.0.1:${(long.address() as AddressInfo).port}`
  const made = serviceFrom({
    name: '',
    origin: base,
    readings: {},
    requests: neededOf(
      (
        understand(`GET ${base}/lists\nX-Key: k\n\nPOST ${base}/people\nX-Key: k\n\n{"email":"a@b.example"}`) as {
          requests: Parameters<typeof neededOf>[0][number][]
        }
      ).requests,
    ),
  })
  if (!made.ok) throw new Error(made.problem)
  const client = openClient([base], () => Date.now())
  const asked = await client.ask(
    { kind: 'api', service: made.service, asked: {} },
    'lists',
    {},
    { key: { text: key, origins: [base] } },
  )
  const { body } = asked.exchange!.answer!
  expect(guessReading('lists', { body })).toEqual({ items: '/deep/rows', read: { id: '/id', name: '/name' } })
  expect(body).not.toContain(key.slice(0, 4))
  long.close()
})

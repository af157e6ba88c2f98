import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import type { Server } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { inspect } from 'node:util'
import { serve } from '@hono/node-server'
import fc from 'fast-check'
import * as oauth from 'oauth4webapi'
import { Webhook } from 'standardwebhooks'
import type { AskedService, ChangeOutcome, Comparison, ConnectionStanding, Outside, TriedHandOver } from '#core/api'
import { type Connection, type HandOver, serviceFileSchema, shippedServices, type Way } from '#core/connection'
import { handOverFailure } from '#core/proof'
import type { BatchId, CommandId, ConnectionId, HandOverId, MemberId } from '#core/ids'
import type { Command } from '#core/journal'
import {
  documentedServices,
  HOOK_SECRET,
  Holdings,
  type Service,
  serviceApp,
  type Trouble,
  troubles,
} from '../../../tests/service-ground'
import { rowsOfThisRun } from '../../../tests/seed'
import { signUp } from '../../../tests/store-suite'
import { change, list, workspace } from '../../../tests/tables/samples'
import { receiverApp } from '../app'
import { type Ledger, openLedger } from '../ledger'
import { handOverWorker } from './handing'
import { sealingWith } from '../secrets'
import type { Settings } from '../settings'
import { openStore } from '../subjects'
import { type HandOverApi, handOverParts, lookAtServices, openClient, rehearseHandOvers, writeTables } from '.'
import { tableName } from './files'
import { webhookRequest } from './webhook-requests'

const KEY = 'the-owners-own-key'
const connectionId = 'someconnection' as ConnectionId
const handOverId = 'somehandover' as HandOverId
const sealing = sealingWith(() => 'a secret of this test')

let folder: string
let holdings: Holdings
let service: Server
let address: string
let settings: Settings
let ledger: Ledger
let parts: HandOverApi
let app: ReturnType<typeof receiverApp>
let stop: () => Promise<void>
/** By how much the receiver's clock is ahead, in milliseconds. */
let ahead = 0

const asked: { service: Service; email: string }[] = []

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'hand-over-'))
  holdings = new Holdings(join(folder, 'service.jsonl'))
  asked.length = 0
  ahead = 0
  await startService()
  settings = {
    host: '127.0.0.1',
    port: 0,
    dataFolder: folder,
    publicUrl: 'https://forms.example',
    trustedProxies: 0,
    ownerKey: null,
    bodyLimit: 64 * 1024,
    standIns: null,
    serviceStandIns: address,
    secret: null,
    database: null,
    smtpServer: null,
    mailbox: null,
    clockFile: null,
    log: 'text' as const,
    metricsFrom: null,
    nameServers: [],
    browser: null,
  }
  await openReceiver()
  await ledger.seed(workspace)
})
afterEach(async () => {
  await stop()
  await ledger.close()
  service.close()
  rmSync(folder, { recursive: true, force: true })
})

async function startService(port = 0): Promise<void> {
  const asking = {
    ask: (service: Service, _: unknown, { email }: { email: string }) => void asked.push({ service, email }),
    answered: () => null,
  }
  const served = serviceApp(holdings, asking, () => {})
  service = serve({ fetch: served.fetch, port, hostname: '127.0.0.1' }) as Server
  await new Promise((resolve) => service.once('listening', resolve))
  address = `http://127.0.0.1:${(service.address() as AddressInfo).port}`
}

async function openReceiver(): Promise<void> {
  const now = () => Date.now() + ahead
  ledger = await openLedger(await openStore(folder), now, now, sealing)
  parts = handOverParts({ ledger, settings, sealing, now })
  app = receiverApp({ ledger, settings, ownerKey: KEY, workshop: null, handOver: parts })
  stop = parts.workers.start()
}

const wayOf = (service: Service): Extract<Way, { kind: 'api' }> => ({
  kind: 'api',
  service: shippedServices(address)[['lantern', 'kettle', 'harbour'].indexOf(service)]!,
  asked: service === 'kettle' ? { account: '7045' } : {},
})
const targets = {
  lantern: { id: 'l1', name: 'Observatory news', first: 'FIRST' },
  kettle: { id: '11', name: 'Night owls', first: 'Q1' },
  harbour: { id: 'b1', name: 'The dome bulletin', first: 'given' },
}
const connectionOf = (way: Way): Connection => ({
  id: connectionId,
  name: 'Our letters',
  way,
  isRehearsed: true,
  createdAt: '2026-11-01T00:00:00.000Z',
})
const handOverOf = (service: Service, changes: Partial<HandOver> = {}): HandOver => ({
  id: handOverId,
  list: list.id,
  connection: connectionId,
  target: { id: targets[service].id, name: targets[service].name },
  fields: [{ column: 'first-name', key: targets[service].first, name: 'First name' }],
  sendsTags: true,
  moment: 'confirmed',
  confirmsThere: false,
  isPaused: false,
  createdAt: '2026-11-01T00:00:00.000Z',
  ...changes,
})

async function api<T>(path: string, body?: unknown, method = body === undefined ? 'GET' : 'POST'): Promise<T> {
  const response = await app.request(`/api${path}`, {
    method,
    headers: { Authorization: `Bearer ${KEY}`, 'Content-Type': 'application/json' },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  })
  const answer = (await response.json()) as T
  if (!response.ok) throw new Error(JSON.stringify(answer))
  return answer
}

/** Makes a connection to one of the services, with a key that it takes. */
/** With the revisions of the connection and of the hand-over. */
async function connect(service: Service, changes: Partial<HandOver> = {}): Promise<[number, number]> {
  const key = `${service}-test-key`
  holdings.addKey(service, { text: key, canWrite: true })
  const taken = await ledger.takeChanges([
    change('connection', connectionOf(wayOf(service))),
    change('handOver', handOverOf(service, changes)),
  ])
  expect(taken.filter(({ ok }) => !ok)).toEqual([])
  await api(`/connections/${connectionId}/key`, { key }, 'PUT')
  return taken.map((one) => (one as { revision: number }).revision) as [number, number]
}

async function joins(email: string): Promise<MemberId> {
  return (await ledger.signUp(signUp(email, { values: { 'first-name': 'Ada' } }), `${email} ${Math.random()}`)).member
}
const there = (service: Service) => {
  const people = holdings.list(service, targets[service].id)?.people ?? new Map()
  return Object.fromEntries(
    [...people.values()].map(({ email, state, values, tags }) => [email, { state, values, tags }]),
  )
}
const state = async () => (await api<Outside>('/outside')).handOvers[0]!
const standing = async (): Promise<ConnectionStanding> => (await api<Outside>('/outside')).connections[0]!

/** Looked at again and again until it holds. */
async function until(holds: () => Promise<void> | void): Promise<void> {
  for (let turn = 0; ; turn += 1) {
    try {
      return await holds()
    } catch (error) {
      if (turn === 10_000) throw error
      await new Promise((resolve) => setTimeout(resolve, 10))
    }
  }
}
const idle = () => until(async () => expect((await state()).waiting).toBe(0))

describe.each(rowsOfThisRun(['lantern', 'kettle', 'harbour'] as const, 3))('handed over to %s', (service) => {
  test('who joins is there with name and tags; who changes, leaves or is erased is so there too', async () => {
    await connect(service)
    const id = await joins('Ada@people.example')
    await until(() =>
      expect(there(service)).toEqual({
        'Ada@people.example': expect.objectContaining({
          state: 'on',
          values: { [targets[service].first]: 'Ada' },
        }) as unknown,
      }),
    )
    await idle()
    expect((await ledger.handOvers.handedOf(id))[0]).toMatchObject({ state: 'there' })
    const member = (await ledger.member(id))!
    await command({
      kind: 'edit-member',
      member: id,
      revision: member.revision,
      email: 'Ada@people.example',
      values: { 'first-name': 'Augusta' },
      tags: ['school'],
    })
    await until(() =>
      expect(there(service)['Ada@people.example']).toMatchObject({
        values: { [targets[service].first]: 'Augusta' },
        tags: ['school'],
      }),
    )
    await ledger.leave(id, 'page')
    await until(() => expect(there(service)).toEqual({}))
    await ledger.comeBack(id)
    await until(() => expect(Object.keys(there(service))).toEqual(['Ada@people.example']))
    await erase(id)
    await until(() => expect(there(service)).toEqual({}))
    await idle()
    expect(await ledger.handOvers.handedOf(id)).toEqual([])
  })

  test('what was set here and is taken back is taken back there: a value, a tag', async () => {
    await connect(service)
    const id = await joins('ada@people.example')
    const edit = async (values: Record<string, string>, tags: string[]) =>
      command({
        ...{ kind: 'edit-member' as const, member: id, revision: (await ledger.member(id))!.revision },
        ...{ email: 'ada@people.example', values, tags },
      })
    await edit({ 'first-name': 'Augusta' }, ['school', 'night'])
    await until(() => expect(there(service)['ada@people.example']).toMatchObject({ tags: ['night', 'school'] }))
    await idle()
    await edit({}, ['night'])
    await until(() => expect(there(service)['ada@people.example']).toMatchObject({ tags: ['night'] }))
    expect(there(service)['ada@people.example']!.values[targets[service].first] ?? '').toBe('')
  })

  test('who is accepted there and has yet to confirm is not there until they did', async () => {
    await connect(service, { confirmsThere: true })
    const id = await joins('ada@people.example')
    await until(async () => expect(await state()).toMatchObject({ 'to-confirm': 1, there: 0, waiting: 0 }))
    expect((await ledger.handOvers.handedOf(id))[0]).toMatchObject({ state: 'to-confirm' })
    holdings.setState(service, targets[service].id, 'ada@people.example', 'on')
    await lookAtServices(ledger, parts)
    expect(await state()).toMatchObject({ 'to-confirm': 0, there: 1 })
  })

  test.each<[Trouble, string | RegExp]>([
    ['key-withdrawn', 'key-refused'],
    ['cannot-write', 'not-allowed'],
    ['list-gone', 'list-gone'],
  ])('%s stops it until its owner goes on, and nobody is lost', async (trouble, means) => {
    await connect(service)
    holdings.switch(service, trouble, true)
    await joins('ada@people.example')
    await joins('bea@people.example')
    await until(async () => expect((await standing()).halted).toMatchObject({ means }))
    expect(await state()).toMatchObject({ waiting: 2, there: 0, refused: 0 })
    holdings.switch(service, trouble, false)
    await api(`/connections/${connectionId}/go-on`, {})
    await until(() => expect(Object.keys(there(service)).sort()).toEqual(['ada@people.example', 'bea@people.example']))
    await idle()
    expect((await standing()).halted).toBeNull()
  })

  test.each<Trouble>(['down', 'rate-limited', 'html'])('%s loses nobody', async (trouble) => {
    await connect(service)
    holdings.switch(service, trouble, true)
    for (const name of ['ada', 'bea', 'cleo', 'dora', 'edna', 'fay']) await joins(`${name}@people.example`)
    await until(async () => expect((await state()).waiting).toBeLessThan(7))
    holdings.switch(service, trouble, false)
    await until(async () => {
      await api(`/connections/${connectionId}/go-on`, {})
      expect(Object.keys(there(service))).toHaveLength(6)
    })
  })

  test('who is refused for good is listed in the service’s own words, and tried again by its owner', async () => {
    await connect(service)
    holdings.switch(service, 'opted-out', true)
    const id = await joins('ada@people.example')
    await until(async () => expect(await state()).toMatchObject({ refused: 1, waiting: 0 }))
    const { handed } = await api<{ handed: { said: string }[] }>(`/hand-overs/${handOverId}/refused`)
    expect(handed).toEqual([
      expect.objectContaining({ member: id, said: expect.stringMatching(/left|ended/) as string }),
    ])
    holdings.switch(service, 'opted-out', false)
    await api(`/hand-overs/${handOverId}/again`, {})
    await until(() => expect(Object.keys(there(service))).toEqual(['ada@people.example']))
    await idle()
    expect(await state()).toMatchObject({ refused: 0, there: 1 })
  })

  test('one made-up person goes there, is seen with the right values, and is taken off', async () => {
    await connect(service)
    const tried = () =>
      api<TriedHandOver>('/hand-overs/try', { connection: connectionOf(wayOf(service)), handOver: handOverOf(service) })
    expect((await tried()).steps.map(({ step, isDone }) => [step, isDone])).toEqual([
      ['put', true],
      ['seen', true],
      ['absent', true],
      ['off', true],
    ])
    expect(there(service)).toEqual({})
    holdings.switch(service, 'keeps-nothing', true)
    expect((await tried()).steps[1]).toMatchObject({
      step: 'seen',
      isDone: false,
      said: expect.stringContaining('is not there') as string,
    })
  })

  test('both lists are compared, and mended', async () => {
    const [, revision] = await connect(service, { isPaused: true })
    const [ada, , cleo] = [
      await joins('ada@people.example'),
      await joins('bea@people.example'),
      await joins('cleo@people.example'),
    ]
    expect([ada, cleo]).toHaveLength(2)
    const theirs = holdings.list(service, targets[service].id)!
    const put = (email: string, first: string) =>
      holdings.put(service, theirs, { email, values: { [targets[service].first]: first }, tags: [], asks: false })
    put('ada@people.example', 'Ada')
    put('bea@people.example', 'Beatrix')
    put('zoe@people.example', 'Zoe')
    await api(`/hand-overs/${handOverId}/compare`, {})
    const compared = () => api<Comparison>(`/hand-overs/${handOverId}/compare`)
    await until(async () => expect((await compared()).state).toBe('done'))
    expect(await compared()).toMatchObject({
      counts: { 'only-here': 1, 'only-there': 1, differs: 1, 'left-there': 0, 'left-here': 0 },
      same: 1,
    })
    await ledger.takeChanges([change('handOver', handOverOf(service), revision)])
    for (const standing of ['only-here', 'differs']) await api(`/hand-overs/${handOverId}/mend`, { standing })
    await until(() => {
      expect(there(service)).toMatchObject({ 'cleo@people.example': { state: 'on' } })
      expect(there(service)['bea@people.example']).toMatchObject({ values: { [targets[service].first]: 'Ada' } })
    })
  })
})

test('a key is tried as it is typed, and its lists and fields are told; a wrong one has its reason', async () => {
  const ask = (what: string, key: string | undefined, values = {}) =>
    api<AskedService>('/connections/ask', { connection: connectionId, way: wayOf('lantern'), key, what, values })
  expect(await ask('account', 'wrong')).toMatchObject({ means: 'key-refused', said: 'This key is not one of ours.' })
  const right = await ask('account', 'lantern-demo-key')
  expect(right).toMatchObject({ means: 'done', account: 'Cloudberry Hill at Lantern Post' })
  expect(JSON.stringify(right)).not.toContain('lantern-demo-key')
  expect((await ask('lists', 'lantern-demo-key')).lists.map(({ name }) => name)).toEqual([
    'Observatory news',
    'Friends of the hill',
    'Old paper letter',
  ])
  expect((await ask('fields', 'lantern-demo-key', { list: 'l1' })).fields).toHaveLength(3)
  service.close()
  service.closeAllConnections()
  expect(await ask('account', 'lantern-demo-key')).toMatchObject({ means: 'unreachable' })
})

test('a key is in no answer, no object, no log and not in the store in clear, whatever the service does', async () => {
  await connect('lantern')
  const logged: string[] = []
  const spies = (['log', 'info', 'warn', 'error'] as const).map((name) =>
    jest.spyOn(console, name).mockImplementation((...said) => void logged.push(inspect(said, { depth: 9 }))),
  )
  for (const trouble of ['key-withdrawn', 'html', 'down', 'list-gone'] as const) {
    holdings.switch('lantern', trouble, true)
    await joins(`${trouble}@people.example`)
    await until(async () => expect((await standing()).halted ?? (await state()).waiting).toBeTruthy())
    await api('/connections/ask', { connection: connectionId, way: wayOf('lantern'), what: 'account', values: {} })
    holdings.switch('lantern', trouble, false)
    await api(`/connections/${connectionId}/go-on`, {})
    await idle()
  }
  for (const spy of spies) spy.mockRestore()
  expect(logged.join('\n')).not.toContain('lantern-test-key')
  const everything = JSON.stringify([
    await api('/outside'),
    await api('/objects?after=0'),
    await api('/journal?after=0'),
  ])
  expect(everything).not.toContain('lantern-test-key')
  await ledger.copyTo(join(folder, 'copy.sqlite'))
  for (const file of ['copy.sqlite', 'askbox.sqlite', 'askbox.sqlite-wal'])
    expect(readFileSync(join(folder, file)).includes('lantern-test-key')).toBe(false)
  // Another receiver's secret opens nothing, and says so.
  const others = handOverParts({
    ledger,
    settings,
    sealing: sealingWith(() => 'another secret altogether'),
    now: Date.now,
  })
  expect([await parts.keys.has(connectionId), await others.keys.has(connectionId)]).toEqual(['yes', 'unreadable'])
})

test('while it is paused nobody goes, and nothing of it is lost: who came, left or was erased meanwhile is told of after', async () => {
  const [, revision] = await connect('lantern')
  const [ada, bea] = [await joins('ada@people.example'), await joins('bea@people.example')]
  await until(() => expect(Object.keys(there('lantern'))).toHaveLength(2))
  await idle()
  const taken = await ledger.takeChanges([change('handOver', handOverOf('lantern', { isPaused: true }), revision)])
  await joins('cleo@people.example')
  await ledger.leave(ada, 'page')
  await erase(bea)
  await until(async () =>
    expect((await ledger.queue.nextDue(handOverWorker(connectionId)))!).toBeGreaterThan(Date.now()),
  )
  expect(Object.keys(there('lantern')).sort()).toEqual(['ada@people.example', 'bea@people.example'])
  await ledger.takeChanges([change('handOver', handOverOf('lantern'), (taken[0] as { revision: number }).revision)])
  await until(() => expect(Object.keys(there('lantern'))).toEqual(['cleo@people.example']))
  // Once it is taken away, nothing of it is kept.
  await idle()
  const { revision: newest } = (await ledger.objectsAfter(0, null, 500))!.items.find(({ kind }) => kind === 'handOver')!
  await ledger.takeChanges([{ kind: 'handOver', key: handOverId, base: newest, body: null }])
  await ledger.handOvers.forgetGone()
  expect(await ledger.handOvers.counts(handOverOf('lantern'))).toEqual({
    there: 0,
    'to-confirm': 0,
    off: 0,
    refused: 0,
    waiting: 0,
  })
})

test('what a service has otherwise than expected is noticed by looking, even where it takes all without a word', async () => {
  const [, revision] = await connect('kettle')
  const looked = async () => {
    expect(await lookAtServices(ledger, parts)).toBe(1)
    return (await state()).changed
  }
  expect((await state()).changed).toBeNull()
  expect(await looked()).toBeNull()
  holdings.switch('kettle', 'field-renamed', true)
  holdings.switch('kettle', 'field-needed', true)
  expect(await looked()).toEqual({
    listName: null,
    lost: [{ key: 'Q1', name: 'First name' }],
    unfilled: [{ key: 'NEEDED', name: 'Member number' }],
  })
  holdings.switch('kettle', 'field-needed', false)
  await looked()
  // Matched anew, it is well again at once.
  const fields = [{ column: 'first-name', key: 'Q12', name: 'First name' }]
  const target = { id: '11', name: 'Owls' }
  await ledger.takeChanges([change('handOver', handOverOf('kettle', { fields, target }), revision)])
  expect((await state()).changed).toEqual({ listName: 'Night owls', lost: [], unfilled: [] })
  holdings.switch('kettle', 'list-gone', true)
  expect(await looked()).toEqual({ lost: [], unfilled: [] })
  // What cannot be asked is as it was seen last.
  holdings.switch('kettle', 'down', true)
  expect(await lookAtServices(ledger, parts)).toBe(0)
  expect((await state()).changed).not.toBeNull()
})

test('whoever was on their way when the receiver ended, and left before it was back, is taken off all the same', async () => {
  await connect('lantern')
  await stop()
  const id = await joins('ada@people.example')
  const [job] = await ledger.queue.due(handOverWorker(connectionId), 10)
  // They arrived there, and nobody was left to write it down.
  expect(await ledger.queue.take(job!.id)).toBe(true)
  const theirs = holdings.list('lantern', 'l1')!
  holdings.put('lantern', theirs, { email: 'ada@people.example', values: {}, tags: [], asks: false })
  await ledger.leave(id, 'page')
  await ledger.close()
  ahead = 60_000
  await openReceiver()
  await idle()
  expect(Object.keys(there('lantern'))).toEqual([])
})

describe('a key goes where it was given for, and nowhere else', () => {
  /** Another host with the same service: the same machine by its other name. */
  const elsewhere = () => address.replace('127.0.0.1', 'localhost')
  const moved = (): Extract<Way, { kind: 'api' }> => {
    const way = wayOf('lantern')
    return { ...way, service: { ...way.service, base: way.service.base.replace(address, elsewhere()) } }
  }

  test('asked with another base, the kept key stays here', async () => {
    await connect('lantern')
    asked.length = 0
    const answer = await api<AskedService>('/connections/ask', {
      connection: connectionId,
      way: moved(),
      what: 'lists',
      values: {},
    })
    expect(answer).toMatchObject({ means: 'key-not-sent', lists: [], exchange: null })
    expect(answer.said).toContain(`given for ${address}`)
    expect(answer.said).toContain(elsewhere())
    // Typed anew, it may.
    const typed = await api<AskedService>('/connections/ask', {
      ...{ connection: connectionId, way: moved(), key: 'lantern-test-key', what: 'lists', values: {} },
    })
    expect(typed.means).not.toBe('key-not-sent')
  })

  test('where the connection goes elsewhere, people wait until the key is given anew', async () => {
    const [revision] = await connect('lantern')
    const [taken] = await ledger.takeChanges([change('connection', connectionOf(moved()), revision)])
    await joins('ada@people.example')
    await until(async () => expect((await standing()).halted).toMatchObject({ means: 'key-not-sent' }))
    expect((await standing()).halted!.said).toContain('Paste the key anew')
    const { stillSince } = await standing()
    expect(stillSince).not.toBeNull()
    // Once it is long, receivers that share the store know of it.
    ahead = 120_000
    await joins('bea@people.example')
    await until(async () => expect((await parts.keys.state(connectionId)).stillSince).toBe(stillSince))
    expect(Object.keys(there('lantern'))).toEqual([])
    expect((await parts.keys.key(connectionId))!.origins).toEqual([address])
    // Put right, they go, and nobody waits any more.
    const { revision: now } = taken as { revision: number }
    await ledger.takeChanges([change('connection', connectionOf(wayOf('lantern')), now)])
    await api(`/connections/${connectionId}/key`, { key: 'lantern-test-key' }, 'PUT')
    await until(() => expect(Object.keys(there('lantern'))).toEqual(['ada@people.example', 'bea@people.example']))
    await until(async () => expect((await standing()).stillSince).toBeNull())
  })

  test('a standstill that a receiver kept and ended with is forgotten where nobody waits', async () => {
    const [revision] = await connect('lantern')
    await idle()
    await parts.keys.keepState(connectionId, { stillSince: Date.now() - 600_000 })
    expect((await standing()).stillSince).not.toBeNull()
    // Any news has the lane look.
    const renamed = { ...connectionOf(wayOf('lantern')), name: 'Renamed' }
    await ledger.takeChanges([change('connection', renamed, revision)])
    await until(async () => expect((await standing()).stillSince).toBeNull())
  })

  test('what no header can carry is refused with the reason', async () => {
    for (const [key, reason] of [
      ['“sesame”', 'curly quote'],
      ['one\ntwo', 'line break'],
      ['sésame', 'é'],
      ['ses\u200bame', 'cannot be seen'],
    ])
      await expect(api(`/connections/${connectionId}/key`, { key }, 'PUT')).rejects.toThrow(reason)
  })
})

test('keys are saved under a passphrase, and come back by it alone', async () => {
  await connect('lantern')
  const { sealed } = await api<{ sealed: string }>('/connections/keys/save', { passphrase: 'open nights' })
  expect(sealed).not.toContain('lantern-test-key')
  await api(`/connections/${connectionId}/key`, { key: null }, 'PUT')
  const open = (passphrase: string, text = sealed) => api('/connections/keys/open', { passphrase, sealed: text })
  await expect(open('another one')).rejects.toThrow('passphrase')
  await expect(open('open nights', 'nothing of ours')).rejects.toThrow('passphrase')
  expect(await parts.keys.has(connectionId)).toBe('no')
  expect(await open('open nights')).toEqual({ count: 1 })
  expect((await parts.keys.key(connectionId))!.text).toBe('lantern-test-key')
})

test('who is on the list already is handed over when it is begun, and who has yet to confirm only then', async () => {
  for (let number = 0; number < 450; number += 1) await joins(`p${number}@people.example`)
  await connect('lantern')
  expect(there('lantern')).toEqual({})
  await api(`/hand-overs/${handOverId}/begin`, {})
  await until(() => expect(Object.keys(there('lantern'))).toHaveLength(450))
  await idle()
  expect(await state()).toMatchObject({ there: 450, refused: 0 })
})

test('who left there leaves here, and is not sent back; nobody else can tell', async () => {
  await connect('lantern')
  const id = await joins('ada@people.example')
  await until(() => expect(Object.keys(there('lantern'))).toHaveLength(1))
  await idle()
  const { backAddress } = await standing()
  const path = new URL(backAddress).pathname
  const tell = (path: string, body: object) =>
    app.request(path, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) })
  const left = { event: 'person.left', list: 'l1', person: { email: 'ADA@people.example' } }
  expect((await tell(`${path}x`, left)).status).toBe(404)
  expect((await tell(path, { ...left, list: 'l2' })).status).toBe(200)
  expect((await ledger.member(id))!.status).toBe('confirmed')
  expect(await (await tell(path, left)).json()).toEqual({ taken: 1 })
  expect((await ledger.member(id))!.status).toBe('left')
  await idle()
  // They are kept there as somebody who left: taking them off would let them be added again.
  expect(Object.keys(there('lantern'))).toHaveLength(1)
})

test.each<[string, (events: object[]) => string, boolean]>([
  ['an array', (events) => JSON.stringify(events), false],
  ['one a line', (events) => events.map((event) => JSON.stringify(event)).join('\n'), false],
  ['an array within an object', (events) => JSON.stringify({ sent: 1, events }), true],
])('many who left there are told at once: %s; each for its own list', async (_, bodyOf, isWithin) => {
  const way = wayOf('lantern')
  if (isWithin) way.service = { ...way.service, back: { ...way.service.back!, each: '/events' } }
  await ledger.takeChanges([change('connection', connectionOf(way)), change('handOver', handOverOf('lantern'))])
  const emails = Array.from({ length: 120 }, (_, at) => `p${at}@people.example`)
  const ids = await Promise.all(emails.map(joins))
  const path = new URL((await standing()).backAddress).pathname
  const events = emails.map((email, at) => ({
    ...{ event: at % 3 === 0 ? 'person.bounced' : 'person.left', list: at < 100 ? 'l1' : 'l2', person: { email } },
  }))
  const noise = [{ event: 'person.opened', person: { email: emails[3] } }, { event: 'person.left' }, 'nothing', null]
  const body = bodyOf([...(noise as object[]), ...events])
  const answer = await app.request(path, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body })
  expect(await answer.json()).toEqual({ taken: 100 })
  const statuses = await Promise.all(ids.map(async (id) => (await ledger.member(id))!.status))
  expect(
    statuses.map((status, at) => status === (at >= 100 ? 'confirmed' : at % 3 === 0 ? 'bounced' : 'left')),
  ).toEqual(statuses.map(() => true))
})

test('a webhook is told what happens, in order, signed; its secret is changed without a gap', async () => {
  const way: Way = { kind: 'webhook', address: `${address}/hooks/letters`, events: [] }
  await ledger.takeChanges([
    change('connection', connectionOf(way)),
    change('handOver', handOverOf('lantern', { target: null, fields: [] })),
  ])
  await api(`/connections/${connectionId}/key`, { key: HOOK_SECRET }, 'PUT')
  const id = await joins('ada@people.example')
  await ledger.leave(id, 'page')
  const events = () =>
    holdings.told.map(({ text }) => (text.startsWith('{') ? (JSON.parse(text) as { type: string }).type : text))
  await until(() => expect(events().reverse()).toEqual(['member.joined', 'member.left']))
  await erase(id)
  await until(() => expect(events()[0]).toBe('member.erased'))
  // Signed with both until everybody knows the new one.
  await api(
    `/connections/${connectionId}/key`,
    { key: `whsec_${Buffer.from('another secret').toString('base64')}` },
    'PUT',
  )
  await joins('bea@people.example')
  await until(() => expect(events()[0]).toBe('member.joined'))
  expect(events()).toHaveLength(4)
})

test('a webhook that reads several events is told of all in one message; what it does not take comes again, each alone', async () => {
  const way: Way = { kind: 'webhook', address: `${address}/hooks/letters`, events: ['joined'], takesMany: true }
  const [, taken] = await ledger.takeChanges([
    change('connection', connectionOf(way)),
    change('handOver', handOverOf('lantern', { target: null, fields: [], isPaused: true })),
  ])
  const { revision } = taken as Extract<ChangeOutcome, { ok: true }>
  await api(`/connections/${connectionId}/key`, { key: HOOK_SECRET }, 'PUT')
  const emails = Array.from({ length: 40 }, (_, at) => `person-${at}@people.example`)
  for (const email of emails) await joins(email)
  await ledger.takeChanges([change('handOver', handOverOf('lantern', { target: null, fields: [] }), revision)])
  type Payload = { id: string; type: string; data: { events: Payload[]; member: { email: string } } }
  const messages = () => holdings.told.map(({ text }) => JSON.parse(text) as Payload).reverse()
  const told = () => messages().flatMap(({ data }) => (data.events ?? []).map(({ data: { member } }) => member.email))
  await until(() => expect([...told()].sort()).toEqual([...emails].sort()))
  expect(messages().length).toBeLessThan(4)
  expect(messages().every(({ type }) => type === 'member.events')).toBe(true)
  const ids = messages().flatMap(({ data }) => data.events.map(({ id }) => id))
  expect(new Set(ids).size).toBe(40)
  // Nothing is lost while it takes nothing; what was tried comes alone.
  holdings.switch('lantern', 'down', true)
  for (const email of ['ada@people.example', 'bea@people.example']) await joins(email)
  await until(async () => expect((await parts.keys.state(connectionId)).putOff).toBeDefined())
  holdings.switch('lantern', 'down', false)
  await until(async () => {
    await parts.workers.goOn(connectionId)
    const alone = messages().flatMap(({ type, data }) => (type === 'member.joined' ? [data.member.email] : []))
    expect([...new Set([...alone, ...told()])]).toEqual(
      expect.arrayContaining(['ada@people.example', 'bea@people.example']),
    )
  })
})

test('a service that takes several at once gets them so; whom it refuses is named, and nobody else is held up', async () => {
  const salt = documentedServices.find(({ path }) => path === 'salt')!
  const fields = [
    { name: 'EMAIL', value: '{email}' },
    { each: 'fields', as: { name: '{key}', value: '{value}' } },
  ]
  const way: Way = {
    kind: 'api',
    asked: {},
    service: serviceFileSchema.parse({
      askBoxService: 1,
      name: 'Salt Ledger',
      base: `${address}/salt`,
      key: { way: 'bearer' },
      requests: {
        lists: { method: 'GET', address: '/lists', items: '/lists', read: { id: '/id', name: '/name' } },
        put: { method: 'POST', address: '/lists/{list}/people', json: { fields } },
        putMany: {
          ...{ method: 'POST', address: '/lists/{list}/people/batch', most: 50 },
          json: { people: { each: 'people', as: { fields } } },
          ...{ items: '/results', read: { email: '/email' } },
          outcomes: [
            { at: '/outcome', is: 'stored', means: 'done' },
            { at: '/outcome', means: 'refused' },
          ],
        },
      },
      said: ['/reason'],
    }),
  }
  const paused = {
    target: { id: 'pans', name: 'Salt pans' },
    fields: [{ column: 'first-name', key: 'GIVEN', name: 'Given' }],
  }
  const [, taken] = await ledger.takeChanges([
    change('connection', connectionOf(way)),
    change('handOver', handOverOf('lantern', { ...paused, isPaused: true })),
  ])
  await api(`/connections/${connectionId}/key`, { key: salt.key[0] }, 'PUT')
  const emails = [...Array.from({ length: 30 }, (_, at) => `many-${at}@people.example`), 'refused@people.example']
  for (const email of emails) await joins(email)
  const { revision } = taken as Extract<ChangeOutcome, { ok: true }>
  await ledger.takeChanges([change('handOver', handOverOf('lantern', paused), revision)])
  await idle()
  expect(salt.shelf.on('pans').map(({ email }) => email)).toEqual(expect.arrayContaining(emails.slice(0, 30)))
  expect(salt.shelf.find('many-7@people.example')?.values).toEqual({ GIVEN: 'Ada' })
  expect(await state()).toMatchObject({ there: 30, refused: 1 })
  expect(await ledger.handOvers.inState(handOverId, 'refused', 5)).toMatchObject([
    { said: 'We have had trouble with this address.' },
  ])
  expect(salt.shelf.find('refused@people.example')).toBeUndefined()
  // A request that is refused as a whole says nothing of anybody: each goes alone then.
  const { revision: resumed } = (
    await ledger.takeChanges([change('handOver', handOverOf('lantern', { ...paused, isPaused: true }), revision + 1)])
  )[0] as Extract<ChangeOutcome, { ok: true }>
  salt.shelf.isPicky = true
  const others = ['ada@people.example', 'bea@people.example']
  for (const email of others) await joins(email)
  await ledger.takeChanges([change('handOver', handOverOf('lantern', paused), resumed)])
  await until(async () => expect((await state()).there).toBe(32))
  salt.shelf.isPicky = false
  expect(salt.shelf.on('pans').map(({ email }) => email)).toEqual(expect.arrayContaining(others))
})

test('signing in at a service: there, back, and had anew; once', async () => {
  await ledger.takeChanges([
    change('connection', connectionOf(wayOf('harbour'))),
    change('handOver', handOverOf('harbour')),
  ])
  const { service, asked } = wayOf('harbour')
  const begun = await api<{ address: string }>(`/connections/${connectionId}/sign-in`, { service, asked })
  const there_ = new URL(begun.address)
  expect(there_.searchParams.get('code_challenge_method')).toBe('S256')
  const answer = await fetch(`${address}/harbour/authorize`, {
    method: 'POST',
    redirect: 'manual',
    body: new URLSearchParams({
      redirect: there_.searchParams.get('redirect_uri')!,
      state: there_.searchParams.get('state')!,
      challenge: there_.searchParams.get('code_challenge')!,
      answer: 'yes',
    }),
  })
  const back = new URL(answer.headers.get('Location')!)
  expect(back.origin + back.pathname).toBe('https://forms.example/signed-in')
  // A mail program's look at the address signs nobody in, and uses nothing up.
  expect((await app.request(back.pathname + back.search, { method: 'HEAD' })).status).toBe(200)
  expect(await parts.keys.has(connectionId)).toBe('no')
  expect((await app.request(back.pathname + back.search)).status).toBe(200)
  expect((await app.request(back.pathname + back.search)).status).toBe(400)
  await joins('ada@people.example')
  await until(() => expect(Object.keys(there('harbour'))).toEqual(['ada@people.example']))
  const before = (await parts.keys.key(connectionId))!
  await parts.keys.keep(connectionId, { ...before, until: Date.now() })
  await joins('bea@people.example')
  await until(() => expect(Object.keys(there('harbour'))).toHaveLength(2))
  expect((await parts.keys.key(connectionId))!.text).not.toBe(before.text)
})

describe('a rehearsal that goes to the end', () => {
  // Each found at List, with its cause: what it is called by, and what of it is said.
  const sabotages: [Trouble | 'wrong list' | 'another secret', string][] = [
    ['key-withdrawn', 'key-refused'],
    ['cannot-write', 'not-allowed'],
    ['list-gone', 'list-gone'],
    ['field-renamed', 'refused'],
    ['field-needed', 'refused'],
    ['down', 'later'],
    ['slow', 'unreachable'],
    ['rate-limited', 'later'],
    ['keeps-nothing', 'not-seen'],
    ['html', 'no-json'],
    ['opted-out', 'opted-out'],
    ['clock-wrong', 'key-refused'],
    ['wrong list', 'refused'],
  ]
  const rehearse = async (client = parts.client) => {
    const id = await joins('made-up@people.example')
    const member = (await ledger.member(id))!
    return rehearseHandOvers(member, ledger, { ...parts, client }, address)
  }
  test.each(rowsOfThisRun(sabotages, 4))('finds %s', async (sabotage, why) => {
    await connect('lantern', sabotage === 'wrong list' ? { target: { id: 'l3', name: 'Old paper letter' } } : {})
    await stop()
    if (sabotage in troubles) holdings.switch('lantern', sabotage as Trouble, true)
    const client = openClient([address], Date.now, { longestMs: sabotage === 'slow' ? 200 : undefined })
    // Two a second are taken, and three are sent.
    if (sabotage === 'rate-limited') await rehearse(client)
    const [handed] = await rehearse(client)
    expect(handed).toMatchObject({ outcome: 'failed', why })
    const { at, cause, mend } = handOverFailure(handed!)
    expect([cause === '', mend === '']).toEqual([false, false])
    expect(['connection', 'hand-over']).toContain(at)
  })
  test('sees the person there, and takes them off again; elsewhere than at a stand-in only once its owner said yes', async () => {
    const [revision] = await connect('lantern')
    await stop()
    expect(await rehearse()).toMatchObject([{ outcome: 'seen' }])
    expect(there('lantern')).toEqual({})
    const member = (await ledger.handOvers.withAddress(list.id, 'made-up@people.example'))!
    const changed = { ...connectionOf(wayOf('lantern')), isRehearsed: false }
    expect(await ledger.takeChanges([change('connection', changed, revision)])).toMatchObject([{ ok: true }])
    expect(await rehearseHandOvers(member, ledger, parts, address)).toMatchObject([{ outcome: 'seen' }])
    expect(await rehearseHandOvers(member, ledger, parts, null)).toMatchObject([{ outcome: 'not-allowed' }])
  })
  test('tells a webhook, whose clock may be wrong', async () => {
    await ledger.takeChanges([
      change('connection', connectionOf({ kind: 'webhook', address: `${address}/hooks/letters`, events: [] })),
      change('handOver', handOverOf('lantern', { target: null, fields: [] })),
    ])
    await api(`/connections/${connectionId}/key`, { key: HOOK_SECRET }, 'PUT')
    await stop()
    expect(await rehearse()).toMatchObject([{ outcome: 'handed' }])
    holdings.switch('lantern', 'clock-wrong', true)
    expect(await rehearse()).toMatchObject([{ outcome: 'failed', why: 'signature' }])
  })
})

test('a list is written as a table, whole, when it is due, and anew without who was erased', async () => {
  await ledger.takeChanges([
    change('connection', connectionOf({ kind: 'file', everyMinutes: 60 })),
    change('handOver', handOverOf('lantern', { target: null, fields: [] })),
  ])
  const ada = await joins('ada@people.example')
  await joins('=bea@people.example')
  let time = Date.now()
  const written = () => writeTables(ledger, join(folder, 'tables'), () => time)
  expect([await written(), await written()]).toEqual([1, 0])
  const [name = ''] = readdirSync(join(folder, 'tables'))
  const table = () => readFileSync(join(folder, 'tables', name), 'utf8').split('\r\n')
  expect(readdirSync(join(folder, 'tables'))).toEqual([tableName(list.name, list.id)])
  expect(table().map((line) => line.split(',')[0])).toEqual([
    '\ufeffEmail',
    'ada@people.example',
    "'=bea@people.example",
    '',
  ])
  await erase(ada)
  expect(await written()).toBe(1)
  expect(table()).toHaveLength(3)
  time += 3_600_000
  expect(await written()).toBe(1)
})

test('property: however receiver and service are killed, everybody is there once in the end, as they are here', async () => {
  await connect('lantern')
  const name = fc.integer({ min: 0, max: 5 }).map((number) => `p${number}@people.example`)
  const doing = fc.constantFrom('join', 'leave', 'kill receiver', 'kill service', 'down', 'up')
  await fc.assert(
    fc.asyncProperty(fc.array(fc.tuple(doing, name), { minLength: 4, maxLength: 12 }), async (done) => {
      for (const [what, email] of done) {
        const member = await ledger.handOvers.withAddress(list.id, email)
        if (what === 'join') await joins(email)
        else if (what === 'leave' && member !== null) await ledger.leave(member.id, 'page')
        else if (what === 'down' || what === 'up') holdings.switch('lantern', 'down', what === 'down')
        else if (what === 'kill receiver') {
          await stop()
          await ledger.close()
          await openReceiver()
        } else if (what === 'kill service') {
          service.closeAllConnections()
          await new Promise((resolve) => service.close(resolve))
          holdings = new Holdings(join(folder, 'service.jsonl'))
          await startService(Number(new URL(address).port))
        }
      }
      holdings.switch('lantern', 'down', false)
      await until(async () => {
        await api(`/connections/${connectionId}/go-on`, {})
        expect((await state()).waiting).toBe(0)
      })
      const here = (await ledger.handOvers.membersAfter(list.id, 0, 100))
        .filter(({ member }) => member.status === 'confirmed')
        .map(({ member }) => member.email.typed)
      expect(Object.keys(there('lantern')).sort()).toEqual(here.sort())
    }),
    { numRuns: 25 },
  )
})

async function command(one: object): Promise<void> {
  const id = `command${Math.random().toString(36).slice(2)}` as CommandId
  const [outcome] = await ledger.carryOut([{ id, list: list.id, ...one } as Command])
  expect(outcome).toMatchObject({ ok: true })
}

async function erase(member: MemberId): Promise<void> {
  const id = `batch${Math.random().toString(36).slice(2)}` as BatchId
  await ledger.batches.begin({ id, list: list.id, purpose: { kind: 'erase' } })
  await ledger.batches.addChunk(id, 0, { erase: [member] })
  await ledger.batches.apply(id)
  while ((await ledger.batches.step(id, 100)) !== null);
}

describe('held against what is published', () => {
  test('RFC 7636, appendix B: the challenge of its verifier', async () => {
    expect(await oauth.calculatePKCECodeChallenge('dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk')).toBe(
      'E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM',
    )
  })
  // The vector of Standard Webhooks' own libraries, from memory.
  test('Standard Webhooks: a known message has the known signature, which ours has as well', () => {
    const secret = 'whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw'
    const sign = (id: string, at: Date, text: string) => new Webhook(secret).sign(id, at, text)
    expect(sign('msg_p5jXN8AQM9LWM0D4loKWxJek', new Date(1_614_265_330_000), '{"test": 2432232314}')).toBe(
      'v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE=',
    )
    const now = Date.now()
    const told = {
      id: 'job1',
      event: 'left' as const,
      at: now,
      handOver: handOverOf('lantern'),
      email: 'a@m.example',
      member: null,
    }
    const way = { kind: 'webhook' as const, address, events: [] }
    const { headers, body } = webhookRequest(way, { text: secret, origins: [] }, told, now)
    expect(headers['webhook-signature']).toBe(sign('job1', new Date(now), body!))
    expect(new Webhook(secret).verify(body!, headers)).toMatchObject({ type: 'member.left' })
  })
})

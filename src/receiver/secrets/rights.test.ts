import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { api, examples, type Grant, type Route } from '#core/api'
import type { LetterId, ListId, SendingId } from '#core/ids'
import { letterContentSchema, noCopies } from '#core/letter'
import type { Hono } from 'hono'
import { receiverApp } from '../app'
import { type Ledger, openLedger } from '../ledger'
import { type MailParts, mailParts } from '../mail'
import { markPurposes } from '../marks'
import { Rehearsals } from '../rehearsals'
import { openStore } from '../subjects'
import { OwnerKeys } from '.'
import { type Care, openCare } from '../care'
import { openClock } from '../clock'
import { fillFromDemo } from '../demo'
import { settingsFor } from '../../../tests/ledger'

const DEMO = join(import.meta.dirname, '../../../demo/cloudberry-hill.json')

let folder: string
let ledger: Ledger
let keys: OwnerKeys
let app: Hono
let care: Care
let mail: MailParts
const key: Record<string, string> = {}
const grants: Record<string, Grant> = {
  owner: { right: 'owner', seesPeople: true },
  editor: { right: 'editor', seesPeople: false },
  'reader of people': { right: 'reader', seesPeople: true },
  reader: { right: 'reader', seesPeople: false },
}
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'rights-'))
  ledger = await openLedger(await openStore(folder), Date.now)
  const addresses = { sites: 'http://127.0.0.1:4320', receiver: 'https://forms.example', services: null }
  await fillFromDemo(ledger, DEMO, folder, addresses)
  keys = new OwnerKeys(ledger.values, 'the-computers-own-key', Date.now)
  const settings = settingsFor({ ASKBOX_PUBLIC_URL: 'https://forms.example', ASKBOX_TRUST_PROXY: '1' }, folder)
  care = openCare({ ledger, settings, now: Date.now })
  const clock = openClock(Date.now, () => performance.now(), null)
  mail = mailParts({ ledger, settings, rehearsals: new Rehearsals(ledger), clock })
  app = receiverApp({ ...{ ledger, settings, ownerKey: 'the-computers-own-key', keys, workshop: null }, care, mail })
  for (const [name, grant] of Object.entries(grants)) {
    const { code } = await keys.newCode({ name, ...grant }, 'computer')
    const exchanged = await keys.exchange(code, 'A browser')
    if (typeof exchanged === 'string') throw new Error(exchanged)
    key[name] = exchanged.key
  }
})
afterAll(async () => {
  await ledger.close()
  rmSync(folder, { recursive: true, force: true })
})

function ask(method: string, path: string, bearer: string | null, body?: unknown): Promise<Response> {
  const headers = {
    'Content-Type': 'application/json',
    'X-Forwarded-For': '127.0.0.1',
    ...(bearer && { Authorization: `Bearer ${bearer}` }),
  }
  const init = { method: method.toUpperCase(), headers, ...(method !== 'get' && { body: JSON.stringify(body ?? {}) }) }
  // From this computer, whose wrong keys are not counted.
  return Promise.resolve(app.request(`/api${path}`, init))
}

/* Who may do what, written down by hand: a route that comes has to be entered here too. */
const OWNERS_ALONE = `
  put /care/backups, post /care/backups/now, put /care/alerts, put /connections/{id}/key, post /connections/keys/save,
  post /connections/keys/open, post /connections/{id}/sign-in, post /refill, post /recover, post /keys/{id}/withdraw,
  post /keys/pairing, post /keys/addresses/{id}/shut, post /keys/links/anew, post /keys/links/save, post /keys/links/open,
  post /keys/services/{id}/anew, post /move, get /move, put /mail/server, put /mail/pace, put /mail/dkim, post /clock/confirm, get /backup`
const WHOEVER_SEES_PEOPLE = `
  get /lists/{list}/digests, get /hand-overs/{id}/refused, get /members/{member}/handed, get /hand-overs/{id}/compare,
  get /hand-overs/{id}/found/{standing}, get /letters/of/{member}, get /mail/queue, get /mail/members/{member},
  get /mailbox, get /mailbox/{address}`
const EVERYBODY = `
  get /batches/{id}, get /files/{id}, get /outside, get /journal, get /objects, get /stream,
  get /journal/check, get /letters, get /letters/{id}, post /letters/readers,
  get /feeds/{id}, get /series/{id}, get /letters-needing-hand, get /mail, get /mail/sender, get /pictures/{id},
  get /receiver, get /browser, get /seen, get /sites/{id}/pages, get /sites-needing-hand, post /presence`
const listed = (text: string) => text.split(',').map((one) => one.trim())
const [owners, people, all] = [OWNERS_ALONE, WHOEVER_SEES_PEOPLE, EVERYBODY].map(listed) as [
  string[],
  string[],
  string[],
]
const routes: Route[] = Object.values(api).flatMap((ofSubject) => Object.values(ofSubject))
const named = routes.filter(({ path }) => path !== '/pair').map(({ method, path }) => `${method} ${path}`)

test('every path of the API is in the table of routes, and every route in this table of rights is one', async () => {
  const described = (await (await app.request('/api/openapi.json')).json()) as { paths: Record<string, object> }
  const there = Object.entries(described.paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => `${method} ${path.replace(/^\/api/, '')}`),
  )
  expect(there.filter((one) => one !== 'post /pair').toSorted()).toEqual(named.toSorted())
  expect([...owners, ...people, ...all].filter((one) => !named.includes(one))).toEqual([])
})

test.each(named)('%s is done for those alone whose key allows it', async (name) => {
  const [method, path] = name.split(' ') as [string, string]
  const filled = path.replaceAll(/\{(\w+)\}/g, 'zzzz1234')
  const mayNot = owners.includes(name)
    ? ['editor', 'reader of people', 'reader']
    : people.includes(name)
      ? ['reader']
      : all.includes(name)
        ? []
        : ['reader of people', 'reader']
  for (const who of Object.keys(grants)) {
    const answer = await ask(method, filled, key[who]!)
    void answer.body?.cancel()
    expect([who, answer.status === 403]).toEqual([who, mayNot.includes(who)])
    expect(answer.status).not.toBe(401)
  }
  for (const nobody of [null, 'x'.repeat(32)]) {
    const answer = await ask(method, filled, nobody)
    expect(answer.status).toBe(401)
  }
})

test.each(['/keys/%70airing', '/KEYS/pairing', '//keys/pairing', '/keys/pairing/', '/keys/x/../pairing', '/none'])(
  'another spelling of an owner’s path, %s, lets nobody else in',
  async (path) => expect([403, 404, 401]).toContain((await ask('post', path, key.editor!)).status),
)

test('whoever sees no people reads nothing of them, and counts them as everybody does', async () => {
  const answers = async (who: string) =>
    Promise.all(
      ['/journal', '/objects', '/outside', '/mail', '/letters'].map(async (path) =>
        (await ask('get', path, key[who]!)).text(),
      ),
    )
  const told = (await ledger.entriesAfter(0, null, 5_000))!.items.flatMap((entry) =>
    'personal' in entry && entry.personal !== null && 'email' in entry.personal && entry.personal.email !== null
      ? [entry.personal.email.typed]
      : 'personal' in entry && entry.personal !== null && 'text' in entry.personal
        ? [JSON.stringify(entry.personal.text).slice(1, -1)]
        : [],
  )
  expect(told.length).toBeGreaterThan(100)
  const links = await ledger.linkKeys()
  const linkKeys = markPurposes.map((purpose) => links.newest(purpose))
  const [asOwner, asReader] = [(await answers('owner')).join('\n'), (await answers('reader')).join('\n')]
  expect(told.filter((one) => !asOwner.includes(one))).toEqual([])
  expect(told.filter((one) => asReader.includes(one))).toEqual([])
  // The receiver's own secrets are told to nobody.
  expect(linkKeys.filter((one) => asOwner.includes(one))).toEqual([])
  const entries = async (who: string) =>
    ((await (await ask('get', '/journal', key[who]!)).json()) as { entries: { kind: string }[] }).entries
  expect((await entries('reader')).map(({ kind }) => kind)).toEqual((await entries('owner')).map(({ kind }) => kind))
})

/** Everywhere that something of a person can stand: what they typed, where they came from, and what their owner asks of them. */
async function plant(email: string, name: string): Promise<void> {
  const form = new URLSearchParams({ email, 'first-name': name, 'askbox-source': email, 'askbox-page': `/of/${email}` })
  const joined = await app.request('/join/opennights', { method: 'POST', body: form })
  expect(joined.status).toBeLessThan(400)
  const filter = {
    join: 'and' as const,
    conditions: [{ about: 'column' as const, column: 'email' as const, how: 'is' as const, text: email }],
  }
  const readers = { kind: 'filter' as const, name: `Only ${email}`, filter }
  const list = ledger.published().list('membersletter' as ListId)!
  const lists = (await ledger.objectsAfter(0, null, 1_000))!.items
  const { revision } = lists.find(({ kind, key: id }) => kind === 'list' && id === list.id)!
  const change = { kind: 'list', key: list.id, base: revision, body: { ...list, filters: [{ name: email, filter }] } }
  const content = letterContentSchema.parse({ ...examples.letters.readReaders.body.content, readers })
  const purpose = { kind: 'import', from: `${email}.csv`, consent: `Asked for it: ${email}` }
  for (const [path, body] of [
    ['/changes', { changes: [change] }],
    ['/batches', { id: 'demoimport', list: list.id, purpose }],
    ['/batches/demoimport/apply', {}],
  ] as const) {
    const answer = await ask('post', path, key.owner!, body)
    expect([path, answer.status, answer.status < 300 ? '' : await answer.text()]).toEqual([path, 200, ''])
  }
  const now = Date.now()
  await ledger.letters.send({
    ...{ id: 'novemberletter' as SendingId, source: { kind: 'letter', id: 'novemberletter' as LetterId }, content },
    ...{
      when: { kind: 'now' as const },
      state: 'stopped' as const,
      createdAt: now,
      startsAt: now,
      endedAt: null,
      mended: 0,
    },
    ...{ said: `550 <${email}>: no`, counts: noCopies() },
  })
  await mail.sender.change(() => ({ halted: { at: now, said: `550 <${email}>: no` } }))
}

test('no route tells anything of a planted person to a key without names, nor how many a filter of theirs holds of', async () => {
  const [email, name] = ['planted.person@secret.example', 'Plantedname']
  await plant(email, name)
  const calls = Object.entries(api).flatMap(([subject, routes]) =>
    Object.entries<Route>(routes).flatMap((route) => {
      const example = (examples as Record<string, Record<string, Example>>)[subject]?.[route[0]]
      return example === undefined ? [] : [{ ...route[1], example }]
    }),
  )
  expect(calls.length).toBeGreaterThan(20)
  const tells = async (who: string) => {
    const told: string[] = []
    for (const { method, path, example } of calls.filter(
      ({ path: asked }) => asked !== '/stream' && asked !== '/backup',
    )) {
      const filled = path.replaceAll(/\{(\w+)\}/g, (_, part: string) => String(example.params![part]))
      const query = new URLSearchParams(example.query as Record<string, string>)
      const answer = await (await ask(method, `${filled}?${query}`, key[who]!, example.body)).text()
      if (/planted/i.test(answer)) told.push(path)
    }
    return told
  }
  expect(await tells('reader')).toEqual([])
  // Nor the page of results that is given to somebody without a key.
  await ask('post', '/clients', key.owner!, { name: 'For the committee', forms: [] })
  const made = (await (await ask('get', '/clients', key.owner!)).json()) as { pages: { address: string }[] }
  const shown = await app.request(new URL(made.pages.at(-1)!.address).pathname)
  const page = await shown.text()
  expect([shown.status, page.includes('For the committee'), /planted/i.test(page)]).toEqual([200, true, false])
  const all = ['/journal', '/letters', '/letters/{id}', '/mail', '/objects']
  expect((await tells('owner')).toSorted()).toEqual(expect.arrayContaining(all) as unknown)
  expect((await tells('reader of people')).toSorted()).toEqual(expect.arrayContaining(all) as unknown)

  const { content } = examples.letters.readReaders.body
  const condition = { about: 'column', column: 'email', how: 'is', text: email }
  const asked = { ...content, readers: { kind: 'filter', name: 'x', filter: { join: 'and', conditions: [condition] } } }
  const statuses = ['owner', 'reader of people', 'reader'].map(async (who) => [
    who,
    (await ask('post', '/letters/readers', key[who]!, { content: asked })).status,
  ])
  expect(Object.fromEntries(await Promise.all(statuses))).toEqual({ owner: 200, 'reader of people': 200, reader: 403 })
})
interface Example {
  params?: Record<string, unknown>
  query?: Record<string, unknown>
  body?: unknown
}

test('what a mail server said of somebody is told without the address, to whoever sees no people', async () => {
  const said = '550 <nobody.here@mail.example>: no such mailbox'
  await mail.sender.change(() => ({ halted: { at: Date.now(), said } }))
  const [asOwner, asReader] = await Promise.all(
    ['owner', 'reader'].map(async (who) => (await ask('get', '/mail', key[who]!)).text()),
  )
  expect(asOwner).toContain('nobody.here@mail.example')
  expect(asReader).toContain('550 <(an address)>')
  expect(asReader).not.toContain('nobody.here@')
})

test('each change says with whose key it was made; an editor erases one person, and never a list', async () => {
  const list = ledger.published().list(ledger.published().mailingLists()[0]!)!
  const { id } = (await keys.list()).find(({ name }) => name === 'editor')!
  const change = { kind: 'list', key: list.id, base: 0, body: { ...list, name: 'Renamed' } }
  const objects = async () =>
    ((await (await ask('get', '/objects', key.owner!)).json()) as { objects: Record<string, unknown>[] }).objects
  const before = (await objects()).find((one) => one.kind === 'list' && one.key === list.id)!
  await ask('post', '/changes', key.editor!, { changes: [{ ...change, base: before.revision }] })
  expect((await objects()).find((one) => one.kind === 'list' && one.key === list.id)).toMatchObject({
    by: id,
    body: { name: 'Renamed' },
  })

  const batch = (name: string) => ({ id: `erasing${name}`, list: list.id, purpose: { kind: 'erase' } })
  const erase = async (who: string, name: string, members: string[]) => {
    await ask('post', '/batches', key[who]!, batch(name))
    return (await ask('put', `/batches/erasing${name}/chunks/0`, key[who]!, { erase: members })).status
  }
  expect(await erase('editor', 'many', ['aaaa1111', 'bbbb2222'])).toBe(409)
  expect(await erase('editor', 'one', ['aaaa1111'])).toBe(200)
  expect(await erase('owner', 'all', ['aaaa1111', 'bbbb2222'])).toBe(200)
  await ask('post', '/batches/erasingone/apply', key.editor!)
  const { entries } = (await (
    await ask('get', `/journal?after=${(await ledger.latest()) - 1}`, key.owner!)
  ).json()) as {
    entries: unknown[]
  }
  expect(entries.at(-1)).toMatchObject({ kind: 'batch-begun', by: id })
})

test('a withdrawn key is told apart from one that never was, at once on this receiver and within a second on others', async () => {
  const { code } = await keys.newCode({ name: 'Lost laptop', right: 'editor', seesPeople: true }, 'computer')
  const made = await keys.exchange(code, 'A browser')
  if (typeof made === 'string') throw new Error(made)
  const other = new OwnerKeys(ledger.values, 'the-computers-own-key', Date.now)
  expect(await other.bearerOf(made.key)).toMatchObject({ name: 'Lost laptop', right: 'editor' })
  await keys.withdraw(made.id)
  const answer = await ask('get', '/receiver', made.key)
  expect([answer.status, ((await answer.json()) as { errors: { code: string }[] }).errors[0]!.code]).toEqual([
    ...[401, 'key-withdrawn'],
  ])
  const clock = jest.spyOn(performance, 'now').mockReturnValue(performance.now() + 1_500)
  expect(await other.bearerOf(made.key)).toBe('withdrawn')
  clock.mockRestore()
})

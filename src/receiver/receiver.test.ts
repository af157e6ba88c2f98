import { solveChallenge as solve } from 'altcha-lib'
import { deriveKey } from 'altcha-lib/algorithms/web/pbkdf2'
import fc from 'fast-check'
import type { Hono } from 'hono'
import { api, type Route } from '#core/api'
import type { Arrival } from '#core/journal'
import { honeypotName, ownPageOf } from '#core/form'
import { change, form, site, spot, version, workspace } from '../../tests/tables/samples'
import { receiverApp } from './app'
import { addressLimiter } from './limits'
import { readSettings } from './settings'
import { type Ledger } from './ledger'
import { newLedger, settingsFor } from '../../tests/ledger'

const KEY = 'the-owner-key-for-tests'
const FORM = 'application/x-www-form-urlencoded'
const passing = 'passingform' as typeof form.id
const guarded = 'guardedform' as typeof form.id
let app: Hono
let ledger: Ledger

beforeAll(async () => {
  ledger = await newLedger()
  const ownPage = {
    ...version.content.answers.joined,
    show: 'address' as const,
    address: 'https://blog.example/thanks',
  }
  await ledger.seed({
    ...workspace,
    versions: [
      version,
      {
        ...version,
        number: 2,
        content: { ...version.content, answers: { ...version.content.answers, joined: ownPage } },
      },
      {
        ...version,
        form: passing,
        content: {
          ...version.content,
          answers: {
            ...version.content.answers,
            joined: { ...ownPage, address: 'https://blog.example/thanks?from=form#top', pass: ['first-name', 'email'] },
          },
        },
      },
      {
        ...version,
        form: guarded,
        content: { ...version.content, guard: { leastSeconds: 0, noThrowAway: false, puzzle: true } },
      },
    ],
    forms: [...workspace.forms, { ...form, id: passing }, { ...form, id: guarded }],
    spots: [
      spot,
      { ...spot, id: 'passingspot' as typeof spot.id, form: passing },
      { ...spot, id: 'guardedspot' as typeof spot.id, form: guarded },
      { ...spot, id: 'retiredspot' as typeof spot.id, state: 'retired' },
      { ...spot, id: 'pausedspot' as typeof spot.id, state: 'paused' },
    ],
  })
  app = receiverApp({
    ledger,
    settings: settingsFor({ ASKBOX_TRUST_PROXY: '1' }),
    ownerKey: KEY,
    workshop: null,
    limiter: addressLimiter(3, 60),
  })
})
afterAll(() => ledger.close())

let visitors = 0
/** A post from a visitor nobody has seen before. */
function join_(body: BodyInit, headers: Record<string, string> = {}, at = spot.id as string) {
  return app.request(`/join/${at}`, {
    method: 'POST',
    body,
    headers: { 'X-Forwarded-For': `192.0.${++visitors}.1`, ...headers },
  })
}
const newest = async () => (await ledger.entriesAfter((await ledger.latest()) - 1, null, 1))!.items[0]
const asJson = { 'Content-Type': FORM, Accept: 'application/json' }
const multipart = (fields: Record<string, string>) => {
  const data = new FormData()
  for (const [name, value] of Object.entries(fields)) data.set(name, value)
  return data
}

describe('POST /join/:spot, taken', () => {
  test.each([
    ['urlencoded', () => join_('email=one%40m.example&first-name=%C3%85da', asJson)],
    ['multipart', () => join_(multipart({ email: 'two@m.example' }), { Accept: 'application/json' })],
    ['JSON', () => join_('{"email":"three@m.example","first-name":null}', { 'Content-Type': 'application/json' })],
  ])('%s: 200 and its outcome as JSON, any origin, no cookie', async (_, send) => {
    const response = await send()
    expect([response.status, await response.json()]).toEqual([200, { outcome: 'joined' }])
    expect(response.headers.get('Access-Control-Allow-Origin')).toBe('*')
    expect(response.headers.get('Access-Control-Allow-Credentials')).toBeNull()
    expect(response.headers.get('Set-Cookie')).toBeNull()
  })

  test.each([
    { body: 'email=first@m.example&askbox-version=1', to: '/answer/samplespot/joined?version=1' },
    { body: 'email=First@M.example&askbox-version=1', to: '/answer/samplespot/already-on-list?version=1' },
    { body: 'email=own@m.example&askbox-version=2', to: 'https://blog.example/thanks' },
    { body: 'email=own2@m.example', to: 'https://blog.example/thanks' },
    { body: 'email=odd@m.example&askbox-version=99', to: 'https://blog.example/thanks' },
    {
      body: `email=bot@m.example&askbox-version=1&${honeypotName(form.id)}=buy`,
      to: '/answer/samplespot/joined?version=1',
    },
  ])('a form post, $body, is sent on with 303 to $to', async ({ body, to }) => {
    const response = await join_(body, { 'Content-Type': FORM })
    expect([response.status, response.headers.get('Location')]).toEqual([303, to])
  })

  test('judged and recorded by the version that the visitor saw, with the page as far as it is known', async () => {
    await join_('email=seen@m.example&askbox-version=1', { ...asJson, Referer: new URL(site.address).href })
    expect(await newest()).toMatchObject({ version: 1, verdict: 'joined', personal: { page: spot.page } })
  })

  test('a filled honeypot is recorded as a bot, and nobody joins', async () => {
    await join_(`email=bot2@m.example&${honeypotName(form.id)}=x`, asJson)
    expect(await newest()).toMatchObject({
      verdict: 'bot',
      member: null,
      personal: { email: { typed: 'bot2@m.example' } },
    })
  })

  test('the same bytes from the same place are a retry; from another place they are somebody again', async () => {
    const from = { ...asJson, 'X-Forwarded-For': '198.51.100.7' }
    const outcomes = [
      await join_('email=retry@m.example', from),
      await join_('email=retry@m.example', from),
      await join_('email=retry@m.example', asJson),
    ]
    expect(await Promise.all(outcomes.map(async (one) => ((await one.json()) as { outcome: string }).outcome))).toEqual(
      ['joined', 'joined', 'already-on-list'],
    )
  })
})

describe('values that go along to a page of the owner’s own', () => {
  const passed = 'https://blog.example/thanks?from=form&first-name=%C3%85da+%26+co%23x%3Fy&email='
  const body = (email: string) => `email=${encodeURIComponent(email)}&first-name=${encodeURIComponent('Åda & co#x?y')}`

  test('a form post is sent on with them, encoded; the address and its fragment are the published ones', async () => {
    const response = await join_(body('goes@m.example'), { 'Content-Type': FORM }, 'passingspot')
    expect([response.status, response.headers.get('Location')]).toEqual([303, `${passed}goes%40m.example#top`])
  })
  test('our script is told the address', async () => {
    const response = await join_(body('told@m.example'), asJson, 'passingspot')
    expect(await response.json()).toEqual({ outcome: 'joined', address: `${passed}told%40m.example#top` })
  })
  test('whatever is answered, nothing but the query changes', () => {
    const answer = { show: 'address', heading: '', message: '', address: 'https://blog.example/thanks' } as const
    fc.assert(
      // Half a character never gets this far: it is refused at the door.
      fc.property(fc.string({ unit: 'grapheme' }), fc.string({ unit: 'grapheme' }), (one, other) => {
        const page = new URL(ownPageOf({ ...answer, pass: ['a', 'b'] }, (key) => (key === 'a' ? one : other))!)
        expect([page.origin, page.pathname, page.hash]).toEqual(['https://blog.example', '/thanks', ''])
        expect([page.searchParams.get('a') ?? '', page.searchParams.get('b') ?? '']).toEqual([one, other])
      }),
    )
  })
})

test('after a form post, the answer’s page asks about a slip in the address, and about nothing else', async () => {
  const said = async (email: string) => {
    const { headers } = await join_(`email=${email}&askbox-version=1`, { 'Content-Type': FORM })
    return (await app.request(headers.get('Location')!)).text()
  }
  expect(await said('wren@gmial.com')).toContain('Did you mean wren@gmail.com?')
  expect(await said('wren@post.example')).not.toContain('Did you mean')
})

describe('the puzzle', () => {
  const post = (email: string, solution = '', from = `192.0.${++visitors}.1`) =>
    join_(
      `email=${encodeURIComponent(email)}&askbox-puzzle=${encodeURIComponent(solution)}`,
      { ...asJson, 'X-Forwarded-For': from },
      'guardedspot',
    )
  const puzzleIn = async (response: Response) =>
    ((await response.json()) as { puzzle: Parameters<typeof solve>[0]['challenge'] }).puzzle
  const solved = async (challenge: Parameters<typeof solve>[0]['challenge']) =>
    JSON.stringify({ challenge, solution: await solve({ challenge, deriveKey }) })

  test('is asked for before anything is stored; solved by the package that browsers use, the sign-up is taken', async () => {
    const before = await ledger.latest()
    const asked = await post('slow@m.example')
    expect([asked.status, asked.headers.get('Content-Type')]).toEqual([422, 'application/problem+json'])
    const puzzle = await puzzleIn(asked)
    expect(await ledger.latest()).toBe(before)
    const taken = await post('slow@m.example', await solved(puzzle))
    expect([taken.status, await taken.json()]).toEqual([200, { outcome: 'joined' }])
  })
  test('a solution counts for one sign-up, and the same post again repeats its answer', async () => {
    const solution = await solved(await puzzleIn(await post('once@m.example')))
    const from = '198.51.100.77'
    expect((await post('once@m.example', solution, from)).status).toBe(200)
    expect((await post('once@m.example', solution, from)).status).toBe(200)
    expect((await post('twice@m.example', solution)).status).toBe(422)
  })
  test.each([
    ['nothing like one', () => 'x'],
    ['JSON of another shape', () => '{"challenge":{"parameters":null},"solution":[]}'],
    ['one that was made elsewhere', (real: string) => real.replace(/"signature":"[0-9a-f]{4}/, '"signature":"0000')],
    ['an easier one', (real: string) => real.replace(/"cost":\d+/, '"cost":1')],
    ['a wrong number', (real: string) => real.replace(/"counter":\d+/, '"counter":4294967295')],
  ])('%s is none', async (_, spoilt) => {
    const real = await solved(await puzzleIn(await post('spoilt@m.example')))
    expect((await post('spoilt@m.example', spoilt(real))).status).toBe(422)
  })
  test('a form post is shown a page that solves it and sends all of it again', async () => {
    const response = await join_(
      `email=plain@m.example&first-name=${encodeURIComponent('<b>"Å')}`,
      { 'Content-Type': FORM },
      'guardedspot',
    )
    const page = await response.text()
    expect(response.status).toBe(422)
    expect(page).toContain('name="first-name" value="&lt;b&gt;&quot;Å"')
    expect(response.headers.get('Content-Security-Policy')).toMatch(/^sandbox allow-forms.*allow-scripts/)
  })
  test('a bot in the trap is not told of it', async () => {
    const response = await join_(`email=trapped@m.example&${honeypotName(guarded)}=x`, asJson, 'guardedspot')
    expect(await response.json()).toEqual({ outcome: 'joined' })
  })
})

describe('POST /join/:spot, refused: RFC 9457 problem documents', () => {
  test.each([
    ['no address', 422, 'email', 'missing', () => join_('', asJson)],
    ['not an address', 422, 'email', 'invalid', () => join_('email=ada', asJson)],
    ['a number', 422, 'email', 'wrong-type', () => join_('{"email":5}', { 'Content-Type': 'application/json' })],
    [
      'a list',
      422,
      'email',
      'wrong-type',
      () => join_('{"email":["a@m.example"]}', { 'Content-Type': 'application/json' }),
    ],
    ['twice', 422, 'email', 'repeated', () => join_('email=a@m.example&email=b@m.example', asJson)],
    ['NUL', 422, 'email', 'refused-character', () => join_('email=a%00@m.example', asJson)],
    [
      'a lone surrogate',
      422,
      'email',
      'refused-character',
      () => join_('{"email":"\\ud800@m.example"}', { 'Content-Type': 'application/json' }),
    ],
    ['percent-encoded bytes that are not UTF-8', 422, '', 'encoding', () => join_('email=%ff@m.example', asJson)],
    ['raw bytes that are not UTF-8', 422, '', 'encoding', () => join_(new Uint8Array([0x65, 0x3d, 0xff]), asJson)],
    ['broken JSON', 422, '', 'malformed', () => join_('{"email":', { 'Content-Type': 'application/json' })],
    ['JSON that is no object', 422, '', 'malformed', () => join_('[]', { 'Content-Type': 'application/json' })],
    [
      'broken multipart',
      422,
      '',
      'malformed',
      () => join_('nonsense', { 'Content-Type': 'multipart/form-data; boundary=x', Accept: 'application/json' }),
    ],
    ['a file for an address', 422, 'email', 'wrong-type', () => join_(withFile(), { Accept: 'application/json' })],
    ['an unknown spot', 404, null, null, () => join_('email=a@m.example', asJson, 'nowhere')],
    ['a retired spot', 410, null, null, () => join_('email=a@m.example', asJson, 'retiredspot')],
    ['a paused spot', 410, null, null, () => join_('email=a@m.example', asJson, 'pausedspot')],
    ['1 MB', 413, null, null, () => join_(`email=${'a'.repeat(1_000_000)}`, asJson)],
    ['another type', 415, null, null, () => join_('email=a@m.example', { 'Content-Type': 'text/plain' })],
    [
      'another encoding',
      415,
      null,
      null,
      () => join_('email=a@m.example', { ...asJson, 'Content-Type': `${FORM}; charset=iso-8859-1` }),
    ],
    [
      'no type',
      415,
      null,
      null,
      () => app.request(`/join/${spot.id}`, { method: 'POST', headers: { 'X-Forwarded-For': '203.0.113.9' } }),
    ],
  ] as [string, number, string | null, string | null, () => Promise<Response>][])(
    '%s: %i',
    async (_, status, field, code, send) => {
      const before = await ledger.latest()
      const response = await send()
      expect(response.headers.get('Content-Type')).toBe('application/problem+json')
      const problem = (await response.json()) as {
        status: number
        title: string
        detail: string
        errors?: { field: string; code: string; message: string }[]
      }
      expect([response.status, problem.status]).toEqual([status, status])
      expect(problem.title.length * problem.detail.length).toBeGreaterThan(0)
      if (field !== null) expect(problem.errors).toMatchObject([{ field, code }])
      expect(await ledger.latest()).toBe(before)
    },
  )

  function withFile(): FormData {
    const data = new FormData()
    data.set('email', new File(['x'], 'x.txt'))
    return data
  }

  test('too many from one address: 429 with Retry-After', async () => {
    const from = { ...asJson, 'X-Forwarded-For': '198.51.100.99, 203.0.113.77' }
    const responses = []
    for (let at = 0; at < 4; at++) responses.push(await join_(`email=n${at}@m.example`, from))
    expect(responses.map(({ status }) => status)).toEqual([200, 200, 200, 429])
    expect(Number(responses[3]!.headers.get('Retry-After'))).toBeGreaterThan(0)
  })

  test('a form post gets pages instead: the form again with its values, or what went wrong; scripts typed stay text', async () => {
    const again = await join_('email=%22%3E%3Cscript%3Ealert(1)%3C%2Fscript%3E&first-name=Ada', {
      'Content-Type': FORM,
    })
    const html = await again.text()
    expect([again.status, again.headers.get('Content-Type')]).toEqual([422, 'text/html; charset=utf-8'])
    expect(again.headers.get('Content-Security-Policy')).toMatch(/^sandbox [^;]*; default-src 'none'/)
    expect(html).toContain('value="Ada"')
    expect(html).not.toContain('<script')
    const gone = await join_('email=a@m.example', { 'Content-Type': FORM }, 'retiredspot')
    const closed = await gone.text()
    expect([gone.status, closed]).toEqual([
      410,
      expect.stringContaining('This form is closed. Thank you for your interest.'),
    ])
    expect(closed).toContain(`<a href="${spot.page}">Back to Sample site</a>`)
  })

  test('line breaks typed anywhere never become headers or another redirect', async () => {
    const response = await join_(
      'email=crlf@m.example&first-name=x%0d%0aLocation:%20https://evil.example&askbox-version=1%0d%0aSet-Cookie:a=b',
      { 'Content-Type': FORM },
    )
    expect(response.status).toBe(303)
    expect(response.headers.get('Location')).toBe('https://blog.example/thanks')
    expect(response.headers.get('Set-Cookie')).toBeNull()
  })
})

test('a sign-up that cannot be stored is not answered with success', async () => {
  const log = jest.spyOn(console, 'error').mockImplementation(() => {})
  const broken: Ledger = { ...ledger, signUp: () => Promise.reject(new Error('the disk is full')) }
  const failing = receiverApp({ ledger: broken, settings: settingsFor({}), ownerKey: KEY, workshop: null })
  const response = await failing.request(`/join/${spot.id}`, {
    method: 'POST',
    body: 'email=a@m.example',
    headers: asJson,
  })
  expect([response.status, response.headers.get('Retry-After')]).toEqual([503, '10'])
  log.mockRestore()
})

test('OPTIONS /join/:spot allows a post from any origin, without credentials', async () => {
  const response = await app.request(`/join/${spot.id}`, {
    method: 'OPTIONS',
    headers: {
      Origin: 'https://blog.example',
      'Access-Control-Request-Method': 'POST',
      'Access-Control-Request-Headers': 'content-type',
    },
  })
  expect(response.status).toBe(204)
  expect(response.headers.get('Access-Control-Allow-Origin')).toBe('*')
  expect(response.headers.get('Access-Control-Allow-Methods')).toContain('POST')
})

describe('the owner’s API', () => {
  const asked = (path: string, key?: string) =>
    app.request(`/api${path}`, { headers: key === undefined ? {} : { Authorization: `Bearer ${key}` } })

  test.each(['/receiver', '/journal', '/stream', '/objects', '/pictures/x', '/nowhere'])(
    '%s needs the key',
    async (path) => {
      for (const key of [undefined, '', 'wrong', `${KEY}x`]) expect((await asked(path, key)).status).toBe(401)
    },
  )

  test('is described by OpenAPI, path by path of its table, and answers as the table says', async () => {
    const document = (await (await asked('/openapi.json')).json()) as {
      openapi: string
      paths: Record<string, Record<string, unknown>>
    }
    expect(document.openapi).toBe('3.1.0')
    const routes: Route[] = Object.values(api).flatMap((subject) => Object.values<Route>(subject))
    const described = Object.entries(document.paths).flatMap(([path, methods]) =>
      Object.keys(methods).map((method) => `${method} ${path}`),
    )
    expect(described.toSorted()).toEqual(routes.map(({ method, path }) => `${method} /api${path}`).toSorted())
    const read = routes.filter(
      ({ method, path, type }) => method === 'get' && type === undefined && path !== '/mailbox' && !path.includes('{'),
    )
    expect(read.length).toBeGreaterThan(8)
    for (const { path, answer, read: forNewer } of read) {
      const response = await asked(path, KEY)
      const body: unknown = await response.json()
      expect([path, response.status, answer.safeParse(body).error, forNewer?.safeParse(body).error]).toEqual([
        path,
        200,
        undefined,
        undefined,
      ])
    }
  })

  const sent = (path: string, body: unknown, method = 'POST') =>
    app.request(`/api${path}`, {
      method,
      body: JSON.stringify(body),
      headers: { 'Content-Type': 'application/json', Authorization: `Bearer ${KEY}` },
    })

  test('tells what is wrong with a body, and where', async () => {
    const response = await sent('/commands', { commands: 'all' })
    expect([response.status, await response.json()]).toMatchObject([422, { errors: [{ field: 'commands' }] }])
  })

  test('answers command by command and change by change: one that cannot be read is refused by itself', async () => {
    const add = (id: string, values: object) => ({
      id,
      kind: 'add-member',
      list: version.list,
      member: `member${id}`,
      email: `${id}@m.example`,
      values,
    })
    const commands = [add('anna', {}), { id: 'odd', kind: 'dance' }, add('null', { note: 'a\0b' }), add('last', {}), 5]
    const { outcomes } = (await (await sent('/commands', { commands })).json()) as {
      outcomes: { id: string; ok: boolean; problem?: { code: string } }[]
    }
    expect(outcomes.map(({ id, ok, problem }) => [id, ok, problem?.code])).toEqual([
      ['anna', true, undefined],
      ['odd', false, 'invalid'],
      ['null', false, 'invalid'],
      ['last', true, undefined],
      ['', false, 'invalid'],
    ])
    const renamed = change(
      'site',
      { ...site, name: 'Renamed' },
      (await ledger.objectsAfter(0, null, 100))!.items.find(({ kind }) => kind === 'site')!.revision,
    )
    const answer = (await (await sent('/changes', { changes: [{ kind: 'weather', key: 'x' }, renamed] })).json()) as {
      outcomes: { ok: boolean }[]
    }
    expect(answer.outcomes.map(({ ok }) => ok)).toEqual([false, true])
  })

  test('says when the history that a cursor belongs to is not its own', async () => {
    for (const path of [
      '/journal?after=1&mark=another',
      '/objects?after=1&mark=another',
      '/journal?after=999999',
      '/objects?after=999999',
    ]) {
      const response = await asked(path, KEY)
      expect([path, response.status, await response.json()]).toMatchObject([
        path,
        409,
        { errors: [{ code: 'other-history' }] },
      ])
    }
  })

  test('a copy with entries that cannot follow is refused with a problem, never a failure', async () => {
    const arrival = (await newest()) as Arrival
    const stranger = {
      n: 1,
      at: arrival.at,
      kind: 'member-removed',
      command: 'somecommand',
      list: version.list,
      member: 'nobodyatall',
    }
    const response = await sent('/refill', {
      journal: await ledger.journalId(),
      entries: [{ ...stranger, n: (await ledger.latest()) + 1 }],
    })
    expect([response.status, await response.json()]).toMatchObject([
      409,
      { detail: expect.stringContaining('not here'), errors: [{ code: 'broken-reference' }] },
    ])
  })
})

describe('settings: a wrong one is named in one line', () => {
  test.each([
    [{ ASKBOX_PORT: 'x' }, 'ASKBOX_PORT'],
    [{ ASKBOX_PORT: '70000' }, 'ASKBOX_PORT'],
    [{ ASKBOX_PORT: '0' }, 'ASKBOX_PORT'],
    [{ ASKBOX_PUBLIC_URL: 'https://:secret@forms.example' }, 'ASKBOX_PUBLIC_URL'],
    [{ ASKBOX_PUBLIC_URL: "https://a;script-src'x'.example" }, 'ASKBOX_PUBLIC_URL'],
    [{ ASKBOX_PUBLIC_URL: 'http://forms.example' }, 'ASKBOX_PUBLIC_URL'],
    [{ ASKBOX_PUBLIC_URL: 'https://forms.example/askbox' }, 'ASKBOX_PUBLIC_URL'],
    [{ ASKBOX_PUBLIC_URL: 'forms' }, 'ASKBOX_PUBLIC_URL'],
    [{ ASKBOX_TRUST_PROXY: 'yes' }, 'ASKBOX_TRUST_PROXY'],
    [{ ASKBOX_KEY: 'short' }, 'ASKBOX_KEY'],
    [{ DATABASE_URL: 'postgres://x' }, 'DATABASE_URL'],
    [{ DATABASE_URL: 'mysql://a@b/c' }, 'DATABASE_URL'],
    [{ DATABASE_URL: 'postgres://a:b@c/d?sslmode=maybe' }, 'DATABASE_URL'],
    [{ DATABASE_URL: 'postgres://a:b@c/d', ASKBOX_SECRET: 's'.repeat(20) }, 'ASKBOX_KEY'],
    [{ DATABASE_URL: 'postgres://a:b@c/d', ASKBOX_KEY: 'k'.repeat(20) }, 'ASKBOX_SECRET'],
  ])('%p', (environment, name) => {
    const reading = readSettings(environment as Record<string, string>, '/nowhere')
    expect(reading.ok).toBe(false)
    expect(!reading.ok && reading.message).toMatch(new RegExp(`^${name} [^\n]+\\.$`))
  })
})

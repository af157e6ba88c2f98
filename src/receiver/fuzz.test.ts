import type { Server } from 'node:http'
import { type AddressInfo, connect } from 'node:net'
import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import { serve } from '@hono/node-server'
import fc from 'fast-check'
import type { Arrival } from '#core/journal'
import { refusedCharacter } from '#core/text'
import { spot, version, workspace } from '../../tests/tables/samples'
import { receiverApp } from './app'
import { guardConnections } from './http/connections'
import { addressLimiter } from './limits'
import { type Ledger } from './ledger'
import { newLedger, settingsFor } from '../../tests/ledger'

/**
 * Everything that a stranger can send to any public route, drawn by chance: methods, paths, types, encodings, bodies,
 * chunks and headers, as whole requests and as raw bytes on a socket. Whatever it is, the receiver answers and goes on.
 */

const BOUND_MS = 8_000
/** Bytes. Some 4 MB are held in a quiet run; what is compiled or cached meanwhile may be several times that. */
const HELD_AT_MOST = 96 * 1024 * 1024
let ledger: Ledger
let http: Server
let port: number
let app: ReturnType<typeof receiverApp>

/** What is held once all that can be let go is. */
function heapNow(): number {
  setFlagsFromString('--expose-gc')
  ;(runInNewContext('gc') as () => void)()
  const { heapUsed, arrayBuffers } = process.memoryUsage()
  return heapUsed + arrayBuffers
}
let heapBefore: number

beforeAll(async () => {
  // That a proxy seems to be there, which it does not.
  jest.spyOn(console, 'error').mockImplementation(() => {})
  ledger = await newLedger()
  await ledger.seed({ ...workspace, versions: [version] })
  const settings = settingsFor()
  app = receiverApp({
    ledger,
    settings,
    ownerKey: 'the-owner-key-for-tests',
    workshop: null,
    limiter: addressLimiter(1_000_000),
    readLimiter: addressLimiter(1_000_000),
  })
  await new Promise<void>((resolve) => {
    http = serve({ fetch: app.fetch, port: 0, hostname: '127.0.0.1' }, () => resolve()) as Server
    guardConnections(http)
  })
  port = (http.address() as AddressInfo).port
  heapBefore = heapNow()
})
afterAll(async () => {
  http.closeAllConnections()
  await new Promise((resolve) => http.close(resolve))
  await ledger.close()
})

/** Half a surrogate pair becomes U+FFFD, as in any encoder. */
const wellFormed = (text: string) => Buffer.from(text, 'utf8').toString('utf8')
const method = fc.constantFrom('GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS', 'TRACE', 'PROPFIND', 'post')
const token = fc.oneof(
  fc.constantFrom(
    '',
    'x',
    'somemember-aaaaaaaaaaaaaaaaaaaaaa',
    'a-0s1-aaaaaaaaaaaaaaaaaaaaaa',
    '%00',
    '%ED%A0%80',
    '..%2f',
    '__proto__',
  ),
  fc.string({ unit: 'binary', maxLength: 40 }).map((text) => encodeURIComponent(wellFormed(text))),
)
const kind = fc.constantFrom(
  'join',
  'resend',
  'confirm',
  'leave',
  'gift',
  'page',
  'frame',
  'file',
  'picture',
  'form',
  'answer',
  'rehearsal',
  'seen',
  'back',
  'signed-in',
  'health',
  'api',
)
const path = fc.oneof(
  fc
    .tuple(kind, fc.oneof(fc.constant(spot.id as string), token), token)
    .map(
      ([one, id, more]) =>
        `/${one}/${id}${one === 'form' ? '.json' : one === 'answer' || one === 'rehearsal' ? `/${more || 'joined'}` : ''}`,
    ),
  token.map((one) => `/${one}`),
  fc.constantFrom('/signed-in', '/api/pair', '/api/keys/pairing', '/alive', '/metrics'),
)
const query = fc.oneof(
  fc.constant(''),
  fc
    .tuple(
      fc.constantFrom('version', 'again', 'source', 'address', 'back', 'after', 'state', 'code', 'rehearsal'),
      token,
    )
    .map(([name, value]) => `?${name}=${value}`),
)
const type = fc.constantFrom(
  'application/x-www-form-urlencoded',
  'application/x-www-form-urlencoded; charset=utf-16',
  'application/json',
  'application/json; charset="utf-8"',
  'multipart/form-data; boundary=x',
  'multipart/form-data; boundary=',
  'multipart/form-data',
  'text/plain',
  'application/x-www-form-urlencoded;;;',
  '',
)
const name = fc.constantFrom(
  'email',
  'first-name',
  'askbox-version',
  'askbox-page',
  'askbox-again',
  'askbox-puzzle',
  'askbox-seconds',
  'askbox-view',
  'askbox-do',
  '__proto__',
  'constructor',
  '',
)
const value = fc.oneof(
  fc.constantFrom(
    'ada@m.example',
    'a@b',
    '1',
    '-1',
    '1e999',
    'NaN',
    '\0',
    '\ud800',
    '=?utf-8?Q?x?=',
    '<script>',
    'a\r\nBcc: x@y.example',
    '[]',
    '{}',
  ),
  fc.string({ unit: 'binary', maxLength: 200 }),
  fc.constantFrom('x', 'a@', '%', '&', '=').chain((one) => fc.nat({ max: 60_000 }).map((many) => one.repeat(many))),
)
const pairs = fc.array(fc.tuple(name, value), { maxLength: 8 })
/** What pages tell of views, as they do and not quite. */
const told = fc.record({
  forms: fc.array(
    fc.record({
      spot: fc.constantFrom<unknown>(spot.id, 'x', '__proto__', 1),
      view: fc.oneof(value, fc.constant(`1.dqzj3.${'a'.repeat(16)}.${'b'.repeat(22)}`)),
      isSeen: fc.boolean(),
      isStarted: fc.boolean(),
    }),
    { maxLength: 25 },
  ),
  width: fc.oneof(fc.double(), fc.constant('9')),
  ...{ cameFrom: fc.oneof(fc.record({ source: value, campaign: value, referrer: value }), value) },
})
const body = fc.oneof(
  fc.oneof(told, fc.jsonValue({ maxDepth: 8 })).map((one) => Buffer.from(JSON.stringify(one))),
  pairs.map((all) => Buffer.from(all.map(([key, text]) => `${key}=${encodeURIComponent(wellFormed(text))}`).join('&'))),
  pairs.map((all) => Buffer.from(all.map(([key, text]) => `${key}=${text}`).join('&'))),
  pairs.map((all) => Buffer.from(JSON.stringify(Object.fromEntries(all)))),
  pairs.map((all) =>
    Buffer.from(
      `${all.map(([key, text]) => `--x\r\nContent-Disposition: form-data; name="${key}"\r\n\r\n${text}\r\n`).join('')}--x--`,
    ),
  ),
  fc.uint8Array({ maxLength: 2_000 }).map((bytes) => Buffer.from(bytes)),
  fc
    .constantFrom('[', '{"a":', '"', 'a&', '%', '--x\r\n')
    .chain((one) =>
      fc.nat({ max: 100_000 }).map((many) => Buffer.from(one.repeat(Math.min(many, 200_000 / one.length)))),
    ),
)
const request = fc.record({
  method,
  path,
  query,
  type,
  body,
  accept: fc.constantFrom('', 'text/html', 'application/json', '*/*'),
  isChunked: fc.boolean(),
  more: fc.constantFrom(
    '',
    'Askbox-Rehearsal: x\r\n',
    'X-Forwarded-For: 192.0.2.1\r\n',
    'Expect: 100-continue\r\n',
    'Content-Encoding: gzip\r\n',
    'Origin: null\r\n',
  ),
})

/** The answer to raw bytes, once the connection is closed or one whole answer's head has come. */
function sent(bytes: Buffer): Promise<string> {
  return new Promise((resolve) => {
    let said = ''
    const socket = connect(port, '127.0.0.1', () => socket.end(bytes))
    socket.setTimeout(20_000, () => socket.destroy())
    socket.on('data', (data) => (said += data.toString('latin1')))
    socket.on('error', () => {})
    socket.on('close', () => resolve(said))
  })
}

/** Processor time that this process took for each, in milliseconds. */
const took: number[] = []
const SUSPICIOUS_MS = 50
/** The status. What took long is sent again: it then takes long again, and tidying up the memory does not. */
async function judged(bytes: Buffer): Promise<number> {
  let said = ''
  let least = Infinity
  for (let times = 0; times < 3 && least > SUSPICIOUS_MS; times++) {
    const before = process.cpuUsage()
    said = await sent(bytes)
    const { user, system } = process.cpuUsage(before)
    least = Math.min(least, (user + system) / 1000)
  }
  took.push(least)
  // None at all where the request was cut short.
  return Number(/^HTTP\/1\.1 (\d{3})/.exec(said.replace(/^HTTP\/1\.1 100 Continue\r\n\r\n/, ''))?.[1] ?? 0)
}

const bounded = { interruptAfterTimeLimit: BOUND_MS, markInterruptAsFailure: false, numRuns: 3_000, endOnFailure: true }

test('whole requests of every kind are answered by nothing above 499', async () => {
  await fc.assert(
    fc.asyncProperty(request, async ({ method, path, query, type, body, accept, isChunked, more }) => {
      const head = `${method} ${path}${query} HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n${type === '' ? '' : `Content-Type: ${type}\r\n`}${accept === '' ? '' : `Accept: ${accept}\r\n`}${more}`
      const framed = isChunked
        ? Buffer.concat([
            Buffer.from(`${head}Transfer-Encoding: chunked\r\n\r\n${body.length.toString(16)}\r\n`),
            body,
            Buffer.from('\r\n0\r\n\r\n'),
          ])
        : Buffer.concat([Buffer.from(`${head}Content-Length: ${body.length}\r\n\r\n`), body])
      expect(await judged(body.length === 0 && isChunked ? Buffer.from(`${head}\r\n`) : framed)).toBeLessThan(500)
    }),
    bounded,
  )
}, 60_000)

test('raw bytes, and requests that are cut short or run into each other, end their own connection at most', async () => {
  const line = fc.constantFrom(
    `POST /join/${spot.id} HTTP/1.1\r\n`,
    'GET / HTTP/1.1\r\n',
    'Host: localhost\r\n',
    'Content-Length: 5\r\n',
    'Content-Length: -1\r\n',
    'Content-Length: 99999999999999999999\r\n',
    'Transfer-Encoding: chunked\r\n',
    'Transfer-Encoding: gzip, chunked\r\n',
    '\r\n',
    'a=b&c',
    'fffffffff\r\n',
    '0\r\n\r\n',
    'X: \0\r\n',
    `${'Y'.repeat(20_000)}: z\r\n`,
    'GET http://elsewhere.example/ HTTP/1.1\r\n',
    'CONNECT inner:25 HTTP/1.1\r\n',
  )
  await fc.assert(
    fc.asyncProperty(
      fc.oneof(
        fc.array(line, { maxLength: 12 }).map((lines) => Buffer.from(lines.join(''))),
        fc.uint8Array({ maxLength: 300 }).map((bytes) => Buffer.from(bytes)),
      ),
      async (bytes) => {
        const status = await judged(bytes)
        // Node itself says 501 or 505 to what it does not speak.
        expect(status < 500 || status === 501 || status === 505).toBe(true)
      },
    ),
    bounded,
  )
}, 60_000)

test('after all that it is well, holds nothing that cannot be read, and no answer took long', async () => {
  expect((await app.request('/health')).status).toBe(200)
  const entries = (await ledger.entriesAfter(0, null, 100_000))!.items as Arrival[]
  expect(entries.length).toBe(await ledger.latest())
  for (const { personal } of entries) {
    for (const text of [personal!.email?.typed ?? '', ...Object.values(personal!.values ?? {})])
      expect(refusedCharacter(text)).toBeNull()
    if (personal!.email) expect(personal!.email.typed).not.toMatch(/[\r\n]/)
  }
  // In one run, so that a slow machine is slow in both.
  const usual = took.toSorted((one, other) => one - other)[Math.floor(took.length / 2)]!
  expect(Math.max(...took) / usual).toBeLessThan(500)
  // Buffers are let go some moments after what held them was collected.
  let kept = heapNow() - heapBefore
  for (let turns = 0; turns < 100 && kept >= HELD_AT_MOST; turns++) {
    await new Promise((resolve) => setImmediate(resolve))
    kept = heapNow() - heapBefore
  }
  expect(kept).toBeLessThan(HELD_AT_MOST)
})

import type { Server } from 'node:http'
import { type AddressInfo, connect } from 'node:net'
import { serve } from '@hono/node-server'
import type { Hono } from 'hono'
import { version, workspace } from '../../../tests/tables/samples'
import { receiverApp } from '../app'
import { guardConnections } from './connections'
import { type Ledger } from '../ledger'
import { newLedger, settingsFor } from '../../../tests/ledger'

/** Bodies that are as large, as slow and as many-parted as their senders like, to every route that the receiver has. */

const KEY = 'the-owner-key-for-tests'
const CHUNK = Buffer.from('a&'.repeat(32 * 1024))
let ledger: Ledger
let app: Hono
let http: Server
let port: number
/** What a post that stopped in the middle was answered, once its connection was closed. */
let slow: Promise<string>

beforeAll(async () => {
  ledger = await newLedger()
  await ledger.seed({ ...workspace, versions: [version] })
  const settings = settingsFor({ ASKBOX_TRUST_PROXY: '1' })
  app = receiverApp({ ledger, settings, ownerKey: KEY, workshop: null })
  await new Promise<void>((resolve) => {
    http = serve({ fetch: app.fetch, port: 0, hostname: '127.0.0.1' }, () => resolve()) as Server
    guardConnections(http)
  })
  port = (http.address() as AddressInfo).port
  // Begun first, for it takes its time beside the others.
  slow = new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1', () =>
      socket.write(
        `POST /join/${workspace.spots[0]!.id} HTTP/1.1\r\nHost: localhost\r\nAccept: application/json\r\nContent-Type: application/x-www-form-urlencoded\r\nContent-Length: 100\r\n\r\na=`,
      ),
    )
    let said = ''
    socket.on('data', (data) => (said += data.toString('latin1')))
    socket.once('close', () => resolve(said))
  })
})
afterAll(async () => {
  http.closeAllConnections()
  await new Promise((resolve) => http.close(resolve))
  await ledger.close()
})

interface Sent {
  status: number
  bytes: number
}

/** Sends chunks without end, whether answered or not, until the connection is closed; with what was sent till then. */
function sendEndlessly(method: string, path: string, headers: string[]): Promise<Sent> {
  return new Promise((resolve) => {
    let said = ''
    const socket = connect(port, '127.0.0.1', () => {
      socket.write(
        `${method} ${path} HTTP/1.1\r\nHost: localhost\r\n${headers.join('\r\n')}\r\nTransfer-Encoding: chunked\r\n\r\n`,
      )
      const chunk = Buffer.concat([Buffer.from(`${CHUNK.length.toString(16)}\r\n`), CHUNK, Buffer.from('\r\n')])
      const go = () => {
        while (!socket.destroyed && socket.write(chunk));
      }
      socket.on('drain', go)
      go()
    })
    socket.on('data', (data) => (said += data.toString('latin1')))
    socket.on('error', () => {})
    socket.on('close', () =>
      resolve({ status: Number(/^HTTP\/1\.1 (\d+)/.exec(said)?.[1] ?? 0), bytes: socket.bytesWritten }),
    )
  })
}

const routesOf = (of: Hono) =>
  [...new Map(of.routes.map(({ method, path }) => [`${method} ${path}`, { method, path }])).values()]
    .filter(({ path }) => !path.endsWith('*') && path !== '/api/stream')
    .map(({ method, path }) => ({
      method: method === 'ALL' ? 'POST' : method,
      path: path.replace(':spot', workspace.spots[0]!.id).replaceAll(/:\w+(\{[^}]*\})?/g, 'thing'),
    }))

describe('a body without end, sent in chunks with no length', () => {
  test.each([
    ['a form', 'application/x-www-form-urlencoded'],
    ['JSON', 'application/json'],
    ['no type', ''],
  ])(
    'as %s ends every connection soon, whatever the route does with it',
    async (_, type) => {
      const routes = routesOf(app)
      expect(routes.length).toBeGreaterThan(50)
      const before = process.memoryUsage().rss
      for (const { method, path } of routes.filter((one) => one.method !== 'GET' || type === '')) {
        const isOwners = path.startsWith('/api/')
        const { status, bytes } = await sendEndlessly(method, path, [
          ...(type === '' ? [] : [`Content-Type: ${type}`]),
          ...(isOwners ? [`Authorization: Bearer ${KEY}`] : []),
          'X-Forwarded-For: 192.0.2.1',
        ])
        const limit = (isOwners ? 26 : 1) * 1024 * 1024
        // Past the limit some is read so that the answer is heard, and some lies in the system's own buffers.
        const slack = 64 * 1024 * 1024
        expect({ method, path, status: status < 500 || status === 503, isBounded: bytes < limit + slack }).toEqual({
          method,
          path,
          status: true,
          isBounded: true,
        })
      }
      expect(process.memoryUsage().rss - before).toBeLessThan(256 * 1024 * 1024)
    },
    120_000,
  )
})

test('more fields than any form has are not taken apart', async () => {
  for (const path of [`/join/${workspace.spots[0]!.id}`, `/resend/${workspace.spots[0]!.id}`, '/leave/nobody']) {
    const response = await app.request(path, {
      method: 'POST',
      headers: { 'Content-Type': 'application/x-www-form-urlencoded' },
      body: 'a&'.repeat(2_000),
    })
    expect(response.status).toBeLessThan(500)
    if (path.startsWith('/join')) expect(response.status).toBe(413)
  }
})

describe('the owner’s API', () => {
  const call = (method: string, path: string, type: string, body?: string) =>
    app.request(`/api${path}`, {
      method,
      headers: { Authorization: `Bearer ${KEY}`, ...(type !== '' && { 'Content-Type': type }) },
      ...(body !== undefined && { body }),
    })
  test.each([
    ['another type', 'POST', '/commands', 'text/plain', '{"commands":[]}', 415],
    ['a form', 'PUT', '/mail/pace', 'application/x-www-form-urlencoded', 'a=b', 415],
    ['no body', 'POST', '/commands', 'application/json', undefined, 400],
    ['no JSON', 'POST', '/commands', 'application/json', '{', 400],
    ['NUL in an id of the path', 'POST', '/mail/queue/a%00b/again', 'application/json', '{}', 404],
    ['NUL in a picture’s id', 'GET', '/pictures/a%00b', '', undefined, 404],
    [
      'NUL in an id of the body',
      'POST',
      '/mail/inbox',
      'application/json',
      '{"list":"a\\u0000","to":"a@b.example"}',
      200,
    ],
    [
      'half a surrogate',
      'POST',
      '/commands',
      'application/json',
      '{"commands":[{"id":"abcdef","kind":"remove-member","list":"\\ud800","member":"abcd","revision":1}]}',
      200,
    ],
    ['an emoji as escapes', 'POST', '/commands', 'application/json', '{"commands":[{"id":"\\ud83c\\udf19"}]}', 200],
  ])('%s: %s %s', async (_, method, path, type, body, status) => {
    expect((await call(method, path, type, body)).status).toBe(status)
  })
})

test('more connections than files may be open are turned away, and the log says what to raise', async () => {
  const lines: string[] = []
  const small = serve({ fetch: app.fetch, port: 0, hostname: '127.0.0.1' }) as Server
  guardConnections(small, 112, (line) => lines.push(line))
  await new Promise((resolve) => small.once('listening', resolve))
  const { port: at } = small.address() as AddressInfo
  const sockets = Array.from({ length: 20 }, () => connect(at, '127.0.0.1').on('error', () => {}))
  await Promise.all(sockets.map((socket) => new Promise((resolve) => socket.once('connect', resolve))))
  await new Promise<void>((resolve) => {
    sockets
      .at(-1)!
      .resume()
      .once('close', () => resolve())
  })
  expect(lines).toEqual([expect.stringContaining('LimitNOFILE')])
  for (const socket of sockets) socket.destroy()
  await new Promise((resolve) => small.close(resolve))
})

test('a post that stops in the middle is given up, and its connection with it', async () => {
  expect(await slow).toMatch(/^HTTP\/1\.1 408 /)
}, 60_000)

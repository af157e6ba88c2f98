import { createSocket } from 'node:dgram'
import { readdirSync, readFileSync } from 'node:fs'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { type VisitWish, visitOf } from '#core/rehearsal'
import * as samples from '../../../tests/tables/samples'
import { Browsers, LIMITS } from '.'

/*
 * With the browser that is installed here (Debian's packages): nothing of a page gets past the guarded proxy, and nothing of
 * it is left.
 */
let site: Server
let inside: Server
let html = ''
const reached: string[] = []
const origin = (server: Server) => `http://127.0.0.1:${(server.address() as AddressInfo).port}`
const wish = (fills: VisitWish['fills'] = null): VisitWish =>
  visitOf(samples.spot, origin(site), samples.content, {
    address: `${origin(site)}/post`,
    viewer: 'desk',
    fills,
    presses: 0,
  })
const form = () =>
  `<form method="post" action="${origin(site)}/join/${samples.spot.id}"><input name="email"><button>Go</button></form>`
const browsers = (limits?: typeof LIMITS) =>
  new Browsers(
    { publicUrl: origin(site), standIns: origin(site), serviceStandIns: null, browser: null },
    undefined,
    limits,
  )

beforeAll(async () => {
  site = createServer((_, response) => response.writeHead(200, { 'Content-Type': 'text/html' }).end(html))
  inside = createServer((request, response) => {
    reached.push(request.url ?? '')
    response.end()
  })
  inside.on('upgrade', (request, socket) => {
    reached.push(request.url ?? '')
    socket.destroy()
  })
  for (const one of [site, inside]) {
    one.listen(0, '127.0.0.1')
    await new Promise((resolve) => one.once('listening', resolve))
  }
})
afterAll(() => {
  for (const one of [site, inside]) {
    one.closeAllConnections()
    one.close()
  }
})

test('a page reaches nothing of this computer or its network: not by pictures, requests, sockets or calls', async () => {
  const used = browsers()
  const udp = createSocket('udp4')
  const datagrams: number[] = []
  udp.on('message', ({ length }) => datagrams.push(length))
  await new Promise<void>((resolve) => udp.bind(0, '127.0.0.1', resolve))
  const port = new URL(origin(inside)).port
  html = `<!DOCTYPE html><body>${form()}<script>
    const secret = 'http://127.0.0.1:${port}/'
    document.body.insertAdjacentHTML('beforeend', '<img src="' + secret + 'img"><iframe src="' + secret + 'frame"></iframe><link rel="preconnect" href="http://localhost:${port}">')
    fetch(secret + 'fetch', { mode: 'no-cors' }).catch(() => {})
    fetch('http://localhost:${port}/name', { mode: 'no-cors' }).catch(() => {})
    fetch('http://[::1]:${port}/six', { mode: 'no-cors' }).catch(() => {})
    navigator.sendBeacon(secret + 'beacon', 'x')
    new WebSocket('ws://127.0.0.1:${port}/socket')
    const calls = new RTCPeerConnection({ iceServers: [{ urls: 'stun:127.0.0.1:${udp.address().port}' }] })
    calls.createDataChannel('x')
    calls.createOffer().then((offer) => calls.setLocalDescription(offer))
  </script>`
  try {
    const seen = await used.visit('one', wish([{ name: 'email', value: 'ilse@people.example' }]))
    expect(seen).toMatchObject({ isTried: true, isThere: true, obstacle: null })
    // It works for the page itself, so that it was carried out.
    expect(reached).toEqual([])
    expect(datagrams).toEqual([])
  } finally {
    await used.stop()
    udp.close()
  }
})

test.each([
  'file:///etc/hostname',
  'view-source:file:///etc/hostname',
  'chrome://version',
  'data:text/html,<form>',
  'about:blank',
])('%s is never opened: it would not come through the proxy', async (address) => {
  const used = browsers()
  expect(await used.visit('one', { ...wish(), address })).toMatchObject({ isTried: false })
  expect(running()).toBe(0)
})

test('a box that its label stands for is ticked, and ticked once', async () => {
  const used = browsers()
  html = `<body><form method="post" action="${origin(site)}/join/${samples.spot.id}"><style>.own { position: absolute; opacity: 0 } label { display: inline-block; border: 1px solid }</style>
    <input type="checkbox" class="own" name="agree" id="agree"><label for="agree">Yes, write to me</label><p id="count">0</p><button>Go</button></form>
    <script>agree.addEventListener('change', () => { count.textContent = Number(count.textContent) + 1; if (count.textContent !== '1') document.forms[0].remove() })</script>`
  try {
    const seen = await used.visit('one', wish([{ name: 'agree', value: null }]))
    expect(seen).toMatchObject({ isTried: true, isThere: true, obstacle: null, remarks: [] })
  } finally {
    await used.stop()
  }
})

test('a form is sent once', async () => {
  const used = browsers()
  html = `<body>${form()}`
  const asked: string[] = []
  const note = (request: { method?: string; url?: string }) => void asked.push(`${request.method} ${request.url}`)
  site.on('request', note)
  try {
    const once = { ...wish([{ name: 'email', value: 'ilse@people.example' }]), presses: 1 as const }
    expect(await used.visit('one', once)).toMatchObject({ isTried: true, isThere: true })
    expect(asked.filter((one) => one.startsWith('POST'))).toEqual([`POST /join/${samples.spot.id}`])
  } finally {
    site.off('request', note)
    await used.stop()
  }
})

test('each visit is the first: nothing is remembered', async () => {
  const used = browsers()
  html = `<body>${form()}<script>if (localStorage.seen || document.cookie) document.forms[0].remove(); localStorage.seen = document.cookie = 'seen=1'</script>`
  try {
    for (const _ of [1, 2]) expect(await used.visit('one', wish())).toMatchObject({ isTried: true, isThere: true })
  } finally {
    await used.stop()
  }
})

test.each([
  [
    'that takes all memory',
    `<script>const all = []; setInterval(() => all.push(new Uint8Array(4e7).fill(1)), 5)</script>`,
  ],
  ['that never rests', `<script>for (;;) {}</script>`],
])('a page %s: not tried, and the next is', async (_, script) => {
  const used = browsers({ ...LIMITS, visitMs: 8_000, memory: 500 * 1024 * 1024 })
  try {
    // Without a form, which is waited for.
    html = `<body>${script}`
    expect(await used.visit('one', wish([{ name: 'email', value: 'i'.repeat(50) }]))).toMatchObject({ isTried: false })
    html = `<body>${form()}`
    expect(await used.visit('one', wish())).toMatchObject({ isTried: true, isThere: true })
  } finally {
    await used.stop()
  }
})

test('it ends with the rehearsal, and with what it was started with', async () => {
  const used = browsers()
  html = `<body>${form()}`
  await used.visit('one', wish())
  expect(running()).toBeGreaterThan(0)
  await used.end('one')
  expect(running()).toBe(0)
})

test('where none is, and where it does not start: said so', async () => {
  const parts = { publicUrl: origin(site), standIns: null, serviceStandIns: null }
  expect(await new Browsers({ ...parts, browser: null }, ['/nowhere/chromium']).state()).toEqual({ state: 'none' })
  expect(await new Browsers({ ...parts, browser: 'none' }).state()).toEqual({ state: 'none' })
  const broken = new Browsers({ ...parts, browser: '/bin/false' })
  expect(await broken.state()).toMatchObject({ state: 'broken', path: '/bin/false' })
  expect(broken.isThere()).toBe(false)
  expect(await browsers().state()).toMatchObject({ state: 'ready', version: expect.stringMatching(/^\d+\./) })
})

/** Browsers that this process started and that run. */
function running(): number {
  return readdirSync('/proc').filter((name) => {
    try {
      if (!/^\d+$/.test(name)) return false
      const parent = Number(readFileSync(`/proc/${name}/stat`, 'latin1').split(') ')[1]!.split(' ')[1])
      return parent === process.pid && readFileSync(`/proc/${name}/cmdline`, 'latin1').includes('chromium')
    } catch {
      // Ended meanwhile.
      return false
    }
  }).length
}

import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Hono } from 'hono'
import { type Field, type FormContent, newField } from '#core/form'
import type { PictureId, SpotId } from '#core/ids'
import type { Arrival } from '#core/journal'
import type { Picture } from '#core/picture'
import { textsOf } from '#core/texts'
import { change, spot, version, workspace, site } from '../../tests/tables/samples'
import { receiverApp } from './app'
import { addressLimiter } from './limits'
import { receiverPaths } from './http/paths'
import { type Ledger } from './ledger'
import { newLedger, settingsFor } from '../../tests/ledger'

const texts = textsOf('en')
const picture: Picture = {
  id: 'pictureid' as PictureId,
  type: 'image/png',
  width: 2,
  height: 1,
  name: 'x.png',
  bytes: Buffer.from('not really a picture').toString('base64'),
}
const fields = [
  newField('email', texts),
  {
    ...newField('topics', texts),
    choices: [
      { key: 'a', label: 'Comets' },
      { key: 'b', label: 'Moons' },
    ],
  },
  { ...newField('consent', texts), key: 'consent', required: false },
  { ...newField('hidden', texts), column: 'first-name', source: 'page-address', value: 'from' },
] as Field[]
const content: FormContent = {
  ...version.content,
  fields,
  video: { address: 'https://video.example/e/7', title: 'The dome', width: 16, height: 9 },
  illustration: {
    picture: { id: picture.id, width: 2, height: 1 },
    phonePicture: null,
    alternative: 'x',
    isDecoration: false,
    onPhones: true,
  },
}
const closed = { ...spot, id: 'closedpage' as SpotId, kind: 'landing' as const, state: 'retired' as const }
const resting = { ...closed, id: 'restingpage' as SpotId, state: 'paused' as const }
let ledger: Ledger
let app: Hono

beforeAll(async () => {
  ledger = await newLedger()
  await ledger.seed({
    ...workspace,
    versions: [{ ...version, content }],
    spots: [{ ...spot, kind: 'landing' }, closed, resting],
    pictures: [picture],
  })
  const settings = settingsFor()
  const files = mkdtempSync(join(tmpdir(), 'ask-box-files-'))
  mkdirSync(files, { recursive: true })
  writeFileSync(join(files, 'askbox.js'), '/* the script */')
  app = receiverApp({
    ledger,
    settings,
    ownerKey: 'the-owner-key-for-tests',
    workshop: null,
    files,
    limiter: addressLimiter(),
  })
})
afterAll(() => ledger.close())

test('a page is handed out as a file to save, with its picture in it; a closed one is not', async () => {
  const response = await app.request(`/file/${spot.id}`)
  expect([response.status, response.headers.get('Content-Disposition')]).toEqual([
    200,
    `attachment; filename="page-${spot.id}.html"`,
  ])
  expect(response.headers.get('Content-Security-Policy')).toBe('sandbox')
  const html = await response.text()
  expect(html).toContain(`action="http://localhost:4310/join/${spot.id}"`)
  expect(html).toContain(`src="data:image/png;base64,${picture.bytes}"`)
  expect(html).not.toContain('<script')
  for (const id of [closed.id, resting.id, 'nowhere']) expect((await app.request(`/file/${id}`)).status).toBe(404)
})

test('a landing page is sandboxed, may run our script and its video’s host, and nothing else', async () => {
  const response = await app.request(`/page/${spot.id}`)
  expect(response.status).toBe(200)
  const policy = response.headers.get('Content-Security-Policy')!
  expect(policy).toContain('sandbox allow-forms')
  expect(policy).toContain('allow-scripts')
  expect(policy).not.toContain('allow-same-origin')
  expect(policy).toContain("frame-ancestors 'none'")
  // An answer may come in a frame: some builders put pasted code into one.
  const answer = await app.request(`/answer/${spot.id}/joined`)
  expect(answer.headers.get('Content-Security-Policy')).not.toContain('frame-ancestors')
  expect(policy).toContain("script-src 'self' http://localhost:4310;")
  expect(policy).toContain('frame-src https://video.example;')
  expect(response.headers.get('Set-Cookie')).toBeNull()
  expect(await response.text()).toContain('<h1 class="askbox-heading">')
})

test('a form in a frame is the form alone, runs no script but ours, and may stand on any site', async () => {
  const response = await app.request(`/frame/${spot.id}`)
  const policy = response.headers.get('Content-Security-Policy')!
  expect([response.status, policy.includes('frame-ancestors'), policy.includes('same-origin')]).toEqual([
    200,
    false,
    false,
  ])
  expect(policy).toContain("script-src 'self' http://localhost:4310;")
  const html = await response.text()
  expect(html).toContain(`action="http://localhost:4310/join/${spot.id}"`)
  // It answers in place, and tells of what happens in it to its site's own origin.
  expect(html.match(/<script[^>]*>/g)).toEqual([
    `<script src="http://localhost:4310/askbox.js" defer>`,
    `<script type="application/json" class="askbox-settings">`,
    `<script type="module" src="http://localhost:4310/frame.js" data-spot="${spot.id}" data-origin="${new URL(site.address).origin}">`,
  ])
  // An answer does so in a frame alone.
  const answered = async (headers: Record<string, string>) =>
    (await app.request(`/answer/${spot.id}/joined`, { headers })).text()
  expect(await answered({ 'Sec-Fetch-Dest': 'iframe' })).toContain('data-outcome="joined"')
  expect(await answered({ 'Sec-Fetch-Dest': 'document' })).not.toContain('<script')
})

test.each([
  ['/page/nosuchspot', 404],
  ['/page/closedpage', 410],
  ['/page/restingpage', 410],
  ['/frame/nosuchspot', 404],
  ['/frame/closedpage', 410],
  ['/picture/nosuchpicture', 404],
  ['/form/nosuchspot.json', 404],
  ['/font/ask-box-sans.woff2', 404],
])('%s is %d', async (path, status) => {
  expect((await app.request(path)).status).toBe(status)
})

test('a picture is its bytes, kept for ever, and can never run', async () => {
  const response = await app.request(`/picture/${picture.id}`)
  expect(Buffer.from(await response.arrayBuffer()).toString()).toBe('not really a picture')
  expect(Object.fromEntries(response.headers)).toMatchObject({
    'content-type': 'image/png',
    'x-content-type-options': 'nosniff',
    'cache-control': expect.stringContaining('immutable'),
    'content-security-policy': "default-src 'none'; sandbox",
  })
})

test('the script and the published form are there for other origins', async () => {
  const script = await app.request('/askbox.js')
  expect([script.headers.get('Content-Type'), await script.text()]).toEqual([
    'text/javascript; charset=utf-8',
    '/* the script */',
  ])
  const form = await app.request(`/form/${spot.id}.json`)
  expect(form.headers.get('Access-Control-Allow-Origin')).toBe('*')
  const said = await form.json()
  expect(said).toMatchObject({ spot: spot.id, state: 'live', version: 1, direction: 'ltr', settings: { texts } })
  // The very form of the page, as nodes; its styles stand apart from it.
  const text = JSON.stringify(said.form)
  expect(text).toContain(`http://localhost:4310/join/${spot.id}`)
  expect(text).not.toContain('all:revert')
  expect(said.styles).toContain('all:revert')
  // What did not change is not sent again.
  const validator = form.headers.get('ETag')!
  const again = await app.request(`/form/${spot.id}.json`, { headers: { 'If-None-Match': validator } })
  expect([again.status, await again.text()]).toEqual([304, ''])
  const known = await app.request('/askbox.js', { headers: { 'If-None-Match': script.headers.get('ETag')! } })
  expect([known.status, await known.text()]).toEqual([304, ''])
})

test('topics become tags, a ticked consent is kept in its words, and the page’s address fills the hidden value', async () => {
  const page = await (await app.request(`/page/${spot.id}?from=poster%22%3E`)).text()
  expect(page).toContain('value="poster&quot;&gt;"')
  const post = (body: string) =>
    app.request(`/join/${spot.id}`, {
      method: 'POST',
      body,
      headers: {
        'Content-Type': 'application/x-www-form-urlencoded',
        Accept: 'application/json',
        Referer: 'https://blog.example/a?from=flyer',
      },
    })
  expect((await post('email=tags%40m.example&topics--a=on&consent=on')).status).toBe(200)
  expect((await post('email=tags%40m.example&topics--b=on')).status).toBe(200)
  const [first, second] = (await ledger.entriesAfter(0, null, 10))!.items as [Arrival, Arrival]
  expect(first.personal).toMatchObject({
    tags: ['Comets'],
    consents: [{ field: 'consent', wording: texts.consent }],
    values: { 'first-name': 'flyer' },
  })
  expect(second).toMatchObject({ verdict: 'already-on-list', personal: { tags: ['Moons'], consents: [] } })
})

test('publishing a form whose picture is not sent along is refused, and nothing changes', async () => {
  const elsewhere = {
    ...content,
    illustration: { ...content.illustration!, picture: { id: 'otherpicture' as PictureId, width: 2, height: 1 } },
  }
  expect(await ledger.takeChanges([change('version', { ...version, number: 2, content: elsewhere })])).toMatchObject([
    { ok: false, problem: { code: 'broken-reference' } },
  ])
  expect(ledger.published().latestVersion(version.form)?.number).toBe(1)
})

test('every route of the receiver begins as the development server has it handed on', () => {
  const others = app.routes
    .map(({ path }) => path)
    .filter((path) => path !== '*' && path !== '/*' && !receiverPaths.some((beginning) => path.startsWith(beginning)))
  expect([...new Set(others)]).toEqual([])
})

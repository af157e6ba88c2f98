import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { siteProfiles } from '#core/site'
import { sitesApp } from './app'
import { editorPath } from './editor'
import { LISTING, sites } from './sites'
import { openSlots, slotsOf } from './slots'

const file = join(mkdtempSync(join(tmpdir(), 'ask-box-sites-')), 'sites.json')
let time = Date.parse('2026-03-01T12:00:00Z')
const now = () => time
const app = () => sitesApp(openSlots(file, now), now)
const page = async (path: string) => (await app().request(path)).text()
const at = (key: string) => sites.find((site) => site.key === key)!
const save = (path: string, fields: Record<string, string>, headers: Record<string, string> = {}) =>
  app().request(`http://127.0.0.1:4320${path}`, {
    method: 'POST',
    body: new URLSearchParams(fields),
    headers: { Origin: 'http://127.0.0.1:4320', ...headers },
  })
const CODE =
  '<form action="https://forms.example/join/x"><style>p{color:red}</style>“quotes”</form><a href="https://x.example/">A link</a>'

test('what is put into the place for HTML stands on the page untouched, and is still there after a restart', async () => {
  const path = editorPath(at('volunteers'), 'body:/posts/first-frost')
  expect((await save(path, { code: CODE, words: 'Say "hello" <b>twice</b>' })).headers.get('Location')).toBe(
    `${path}?saved`,
  )
  expect(await page('/posts/first-frost')).toContain(CODE)
  expect(await page('/posts/first-frost')).toContain('Say “hello” &lt;b&gt;twice&lt;/b&gt;')
  expect(await page('/editor/volunteers')).toContain('has code')
})

test('a builder that takes no code keeps links and nothing else', async () => {
  await save(editorPath(at('quarry-cafe'), 'body:/hampers'), { code: CODE, words: '' })
  await save('/editor/quarry-cafe/clear-cache', {})
  const html = await page('/quarry-cafe/hampers')
  expect(html).toContain('<a href="https://x.example/">A link</a>')
  expect(html).not.toMatch(/<form action="https|color:red/)
})

test('a cache shows the page as it was, until its time is over or it is cleared', async () => {
  const path = editorPath(at('star-party'), 'head:/tickets')
  const mark = '<meta name="mark">'
  await save(path, { code: mark })
  expect(await page('/star-party/tickets')).not.toContain(mark)
  time += siteProfiles['builder-with-head'].cacheMinutes * 60_000
  expect(await page('/star-party/tickets')).toContain(mark)
  await save(path, { code: '' })
  expect(await page('/star-party/tickets')).toContain(mark)
  await save('/editor/star-party/clear-cache', {})
  expect(await page('/star-party/tickets')).not.toContain(mark)
})

test('the workshop may paste, from this computer only; into the right place, and a line for the head once', async () => {
  const paste = (body: unknown, origin = 'http://localhost:4310') =>
    app().request('/paste', {
      method: 'POST',
      body: JSON.stringify(body),
      headers: { 'Content-Type': 'application/json', Origin: origin },
    })
  const asked = { page: 'http://127.0.0.1:4320/field-guide/posts/november', place: 'sidebar', code: '<i>here</i>' }
  const response = await paste(asked)
  expect(await response.json()).toMatchObject({ where: 'Field guide to the northern sky, Side column' })
  expect(response.headers.get('Access-Control-Allow-Origin')).toBe('http://localhost:4310')
  expect((await paste(asked, 'https://elsewhere.example')).headers.get('Access-Control-Allow-Origin')).toBeNull()
  expect(await page('/field-guide/book')).toContain('<i>here</i>')
  for (let count = 0; count < 2; count++) await paste({ ...asked, place: 'site-head', code: '<meta name="once">\n' })
  expect((await page('/field-guide')).split('<meta name="once">')).toHaveLength(2)
  expect((await paste({ ...asked, page: 'http://127.0.0.1:4320/quarry-cafe', place: 'site-head' })).status).toBe(409)
  expect((await paste({ ...asked, page: 'http://127.0.0.1:4320/nowhere' })).status).toBe(404)
  expect((await paste({ ...asked, place: 'the roof' })).status).toBe(400)
})

test('another site cannot save into it', async () => {
  const path = editorPath(at('volunteers'), 'side')
  expect((await save(path, { code: 'x' }, { Origin: 'https://elsewhere.example' })).status).toBe(403)
})

test('every page, list of posts and editor is there, and nothing else', async () => {
  for (const site of sites) {
    const paths = [
      ...site.pages.map(({ path }) => site.path + path || '/'),
      `${site.path}${LISTING}`,
      `/editor/${site.key}`,
    ]
    for (const path of [...paths, ...slotsOf(site).map((slot) => editorPath(site, slot))])
      expect([path, (await app().request(path)).status]).toEqual([path, 200])
  }
  for (const path of [
    '/posts/nothing',
    '/observatory/posts/first-frost',
    '/editor/nothing',
    '/editor/volunteers/roof',
    '/elsewhere',
  ])
    expect([path, (await app().request(path)).status]).toEqual([path, 404])
})

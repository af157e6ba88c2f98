import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { blogApp } from './blog'
import { openPosts } from './posts'

const file = join(mkdtempSync(join(tmpdir(), 'ask-box-blog-')), 'posts.json')
const save = (fields: Record<string, string>, headers: Record<string, string> = {}) =>
  blogApp(openPosts(file)).request('http://127.0.0.1:4320/editor/first-frost', {
    method: 'POST',
    body: new URLSearchParams(fields),
    headers: { Origin: 'http://127.0.0.1:4320', ...headers },
  })
const page = async (path: string) => (await blogApp(openPosts(file)).request(path)).text()

test('what is pasted into the slot stands on the page untouched, and is still there after a restart; text stays text', async () => {
  expect(
    (
      await save({ code: '<form action="https://forms.example/join/x">“quotes”</form>', text: '<b>not bold</b>' })
    ).headers.get('Location'),
  ).toBe('/editor/first-frost?saved')
  expect(await page('/posts/first-frost')).toContain('<form action="https://forms.example/join/x">“quotes”</form>')
  expect(await page('/posts/first-frost')).toContain('&lt;b&gt;not bold&lt;/b&gt;')
  expect(await page('/editor/first-frost')).toContain('&lt;form action=&quot;https://forms.example/join/x&quot;&gt;')
  expect(await page('/editor')).toContain('slot filled')
})

test('another site cannot save into it', async () => {
  expect((await save({ code: 'x' }, { Origin: 'https://elsewhere.example' })).status).toBe(403)
})

test.each(['/', '/observatory', '/posts/new-mirror', '/observatory/posts/open-nights'])('%s is there', async (path) => {
  expect((await blogApp(openPosts(file)).request(path)).status).toBe(200)
})
test.each(['/posts/nothing', '/observatory/posts/first-frost', '/editor/nothing', '/elsewhere'])(
  '%s is not',
  async (path) => {
    expect((await blogApp(openPosts(file)).request(path)).status).toBe(404)
  },
)

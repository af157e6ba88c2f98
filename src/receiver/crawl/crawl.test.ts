import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { gzipSync } from 'node:zlib'
import fc from 'fast-check'
import { crawlChanges, type CrawlReport, pageGroups, spread, spotInGroups, spotSentence } from '#core/crawl'
import type { SpotId } from '#core/ids'
import type { ExpectedCode } from '#core/install'
import { startRule } from '#core/rule'
import { parsePage } from '#core/submission'
import { parsedTree } from '#core/usable'
import { crawl, type CrawlWish } from './crawl'
import { readRobots } from './robots'
import { readSitemap, SitemapProblem } from './sitemap'
import { OutsideProblem } from '../outside'
import { stillPage } from './still-page'

type Answer = { status?: number; type?: string; body: string | Buffer }
let answers = new Map<string, Answer>()
let asked: string[] = []
let server: Server
let origin: string
beforeAll(async () => {
  server = createServer((request, response) => {
    asked.push(request.url!)
    const { status = 200, type = 'text/html', body } = answers.get(request.url!) ?? { status: 404, body: 'Nothing' }
    response.writeHead(status, { 'Content-Type': type })
    response.end(body)
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
})
beforeEach(() => {
  answers = new Map()
  asked = []
})
afterAll(() => void server.close())

const urlset = (locs: readonly string[]) =>
  `<?xml version="1.0" encoding="UTF-8"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">${locs.map((loc) => `<url><loc>${loc}</loc></url>`).join('')}</urlset>`
const SPOT = 'byrule' as SpotId
const expected = (receiver = 'https://forms.example'): ExpectedCode[] => [
  {
    spot: {
      ...({
        id: SPOT,
        form: 'form',
        site: 'site',
        kind: 'inline',
        page: '',
        state: 'live',
        code: 'rule',
      } as never as ExpectedCode['spot']),
      placing: { draft: startRule, published: { ...startRule, place: { kind: 'text', of: 'paragraph', number: 1 } } },
    },
    ...{ code: 'rule', receiver, versions: [], others: new Map() },
  },
]
const wish = (changes: Partial<CrawlWish> = {}): CrawlWish => ({
  ...{ address: `${origin}/`, apart: [], expected: expected(), allowed: [origin], thread: undefined },
  now: () => 1_000,
  isStopped: () => false,
  progress: () => {},
  ...changes,
})
const line = '<script async src="https://forms.example/askbox.js"></script>'
const page = (text: string, more = '') => ({ body: `<!DOCTYPE html><head>${line}</head><main>${text}</main>${more}` })

test('a site is looked through by its sitemap: where a rule has its place, where it has none, and what robots.txt forbids', async () => {
  answers.set('/robots.txt', { type: 'text/plain', body: 'User-agent: *\nDisallow: /private/' })
  const paths = ['/posts/a', '/posts/b', '/posts/c', '/empty', '/private/x', '/gone']
  answers.set('/sitemap.xml', {
    type: 'application/xml',
    body: urlset(paths.map((path) => origin + path).concat('http://169.254.169.254/latest')),
  })
  for (const path of paths.slice(0, 3)) answers.set(path, page('<p>Enough words for a paragraph of the text.</p>'))
  answers.set(
    '/empty',
    page(
      '<img src="x"> and some letters to read here, of which there are more than two hundred, so that nobody takes the page for one that its scripts have yet to build; it says enough by itself to be a page, but has no paragraph at all in it.'
        .replace(/<img.*?>/, '')
        .slice(0, 60) + '<span>Words</span>'.repeat(60),
    ),
  )
  const crawled = await crawl(wish())
  if (!crawled.ok) throw new Error(crawled.said)
  const { report } = crawled
  expect(report).toMatchObject({ from: 'sitemap', found: 6, forbidden: 1, isStopped: false })
  expect(
    Object.fromEntries(report.pages.map(({ path, spots, problem }) => [path, problem ?? spots[SPOT]?.state])),
  ).toEqual({
    '/posts/a': 'there',
    '/posts/b': 'there',
    '/posts/c': 'there',
    '/empty': 'no-place',
    '/gone': 'It answers 404.',
  })
  expect(asked).not.toContain('/private/x')
  expect(spotSentence(spotInGroups(report, SPOT))).toBe(
    'In place on all 3 pages under /posts; no place on the only page at the top.',
  )
})

test('without a sitemap, links lead from page to page; not to files, other sites, or sites below', async () => {
  answers.set(
    '/',
    page(
      '<p>Enough words for a paragraph.</p>',
      `<a href="/a">a</a><a href="/f.pdf">f</a><a href="https://other.example/">o</a><a href="/blog/x">b</a><a href="/a#part">again</a>`,
    ),
  )
  answers.set('/a', page('<p>Enough words for a paragraph.</p>', '<a href="/b?x=1">b</a>'))
  answers.set('/b?x=1', page('<p>Enough words for a paragraph.</p>'))
  const crawled = await crawl(wish({ apart: ['/blog/'] }))
  if (!crawled.ok) throw new Error(crawled.said)
  expect(crawled.report.from).toBe('links')
  expect(crawled.report.pages.map(({ path }) => path)).toEqual(['/', '/a', '/b?x=1'])
  expect(asked.filter((path) => /pdf|blog/.test(path))).toEqual([])
})

test('of 5,000 pages 500 are looked at, in bounded memory; stopped, what was seen is kept', async () => {
  const paths = Array.from({ length: 5_000 }, (_, at) => `/${at % 10 === 0 ? 'news' : 'shop'}/page-${at}`)
  answers.set('/sitemap.xml', { body: gzipSync(urlset(paths.map((path) => origin + path))) })
  for (const path of paths) answers.set(path, page('<p>Enough words for a paragraph.</p>'))
  const before = process.memoryUsage().heapUsed
  const crawled = await crawl(wish())
  if (!crawled.ok) throw new Error(crawled.said)
  expect(crawled.report).toMatchObject({ found: 5_000 })
  expect(crawled.report.pages).toHaveLength(500)
  // Small groups are not hidden by large ones.
  expect(crawled.report.pages.filter(({ path }) => path.startsWith('/news/'))).toHaveLength(250)
  expect((process.memoryUsage().heapUsed - before) / 1024 / 1024).toBeLessThan(150)
  let done = 0
  const stopped = await crawl(wish({ isStopped: () => done >= 5, progress: ({ done: at }) => (done = at) }))
  expect(stopped).toMatchObject({ ok: true, report: { isStopped: true } })
}, 60_000)

test.each<[string, Answer, string]>([
  [
    'robots.txt that cannot be read: nothing may be asked (RFC 9309, 2.3.1.4)',
    { status: 503, body: '' },
    'robots.txt answers 503',
  ],
  ['robots.txt that forbids all', { body: 'User-agent: *\nDisallow: /' }, 'keeps programs from its pages'],
])('%s', async (_, robots, said) => {
  answers.set('/robots.txt', robots)
  answers.set('/', page('<p>x</p>'))
  expect(await crawl(wish())).toMatchObject({ ok: false, said: expect.stringContaining(said) })
  expect(asked).not.toContain('/')
})

test('a page nested 200,000 deep, or of 4 MB, is told of, and the others are looked at', async () => {
  answers.set('/sitemap.xml', { body: urlset([`${origin}/deep`, `${origin}/large`, `${origin}/sound`]) })
  answers.set('/deep', page('<div>'.repeat(200_000)))
  answers.set('/large', page('x'.repeat(4 * 1024 * 1024)))
  answers.set('/sound', page('<p>Enough words for a paragraph.</p>'))
  const crawled = await crawl(wish())
  if (!crawled.ok) throw new Error(crawled.said)
  const by = Object.fromEntries(crawled.report.pages.map(({ path, problem }) => [path, problem]))
  expect(by['/sound']).toBeUndefined()
  expect(by['/deep']).toMatch(/deep|stack/i)
  expect(by['/large']).toContain('larger than 3 MB')
})

/** From memory: the sample of sitemaps.org/protocol.html, and its sample index. */
const SAMPLE = `<?xml version="1.0" encoding="UTF-8"?>
<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">
   <url><loc>http://www.example.com/</loc><lastmod>2005-01-01</lastmod><changefreq>monthly</changefreq><priority>0.8</priority></url>
   <url><loc>http://www.example.com/catalog?item=12&amp;desc=vacation_hawaii</loc><changefreq>weekly</changefreq></url>
</urlset>`
const INDEX = `<?xml version="1.0" encoding="UTF-8"?>
<sitemapindex xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">
   <sitemap><loc>http://www.example.com/sitemap1.xml.gz</loc><lastmod>2004-10-01T18:23:17+00:00</lastmod></sitemap>
</sitemapindex>`

test('sitemaps are read as the protocol has them: XML, packed, an index, text', () => {
  const pages = [
    { address: 'http://www.example.com/', changedAt: '2005-01-01' },
    { address: 'http://www.example.com/catalog?item=12&desc=vacation_hawaii', changedAt: null },
  ]
  expect(readSitemap(Buffer.from(SAMPLE))).toEqual({ kind: 'pages', entries: pages })
  expect(readSitemap(gzipSync(SAMPLE))).toEqual({ kind: 'pages', entries: pages })
  expect(readSitemap(Buffer.from(INDEX))).toMatchObject({
    kind: 'index',
    entries: [{ address: 'http://www.example.com/sitemap1.xml.gz' }],
  })
  expect(readSitemap(Buffer.from('http://www.example.com/a\nhttp://www.example.com/b\n')).entries).toHaveLength(2)
  expect(
    readSitemap(Buffer.from(urlset(Array.from({ length: 50_100 }, (_, at) => `http://a.example/${at}`)))).entries,
  ).toHaveLength(50_000)
})

test.each<[string, () => Buffer, RegExp]>([
  [
    'entities that swell',
    () =>
      Buffer.from(
        `<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "${'b'.repeat(1000)}">]><urlset><url><loc>&a;</loc></url></urlset>`,
      ),
    /DOCTYPE/,
  ],
  ['gzip that swells to 200 MB', () => gzipSync(Buffer.alloc(200 * 1024 * 1024)), /larger than 50 MB/],
  ['broken gzip', () => Buffer.from([0x1f, 0x8b, 1, 2, 3]), /packed/],
  ['depth', () => Buffer.from(`<urlset>${'<url>'.repeat(100_000)}`), /deeper/],
  ['no XML', () => Buffer.from('<urlset><url></urlset>'), /no sound XML/],
  ['a page', () => Buffer.from('<html><body>Not found</body></html>'), /This is no sitemap/],
  ['text that is none', () => Buffer.from('Not found'), /no sitemap/],
])('a sitemap with %s is refused, with the reason', (_, bytes, why) => {
  expect(() => readSitemap(bytes())).toThrow(SitemapProblem)
  expect(() => readSitemap(bytes())).toThrow(why)
})

/** RFC 9309, section 5.1 and 5.2, with our product token among the crawlers. */
const SIMPLE = `User-Agent: *
Disallow: *.gif$
Disallow: /example/
Allow: /publications/

User-Agent: foobot
Disallow:/
Allow:/example/page.html
Allow:/example/allowed.gif

User-Agent: askbox
User-Agent: bazbot
Disallow: /example/page.html

User-Agent: quxbot
`
const LONGEST = `User-Agent: askbox
Allow: /example/page/
Disallow: /example/page/disallowed.gif
`
test.each([
  [SIMPLE, '/example/page.html', false],
  [SIMPLE, '/example/allowed.gif', true],
  [SIMPLE, '/anything', true],
  [SIMPLE.replace('User-Agent: askbox\n', ''), '/example/page.html', false],
  [SIMPLE.replace('User-Agent: askbox\n', ''), '/publications/a', true],
  [SIMPLE.replace('User-Agent: askbox\n', ''), '/picture.gif', false],
  [LONGEST, '/example/page/disallowed.gif', false],
  [LONGEST, '/example/page/other.gif', true],
])('robots.txt by RFC 9309 (%#): %s is allowed or not', (text, path, isAllowed) => {
  expect(readRobots('https://hill.example/robots.txt', text).allows(`https://hill.example${path}`)).toBe(isAllowed)
})

const paths = fc.array(fc.stringMatching(/^(?:\/[a-c]{1,2}){0,3}\/[a-z]{1,4}$/), { maxLength: 60 })
test('every page is in one group; of some of many, each group has its part', () => {
  fc.assert(
    fc.property(paths, fc.integer({ min: 1, max: 40 }), (all, most) => {
      const pages = all.map((path) => ({ path }))
      const groups = pageGroups(pages)
      expect(groups.flatMap((group) => group.pages).length).toBe(pages.length)
      for (const group of groups) if (group.under !== '') expect(group.pages.length).toBeGreaterThanOrEqual(2)
      const some = spread(pages, most)
      expect(some).toHaveLength(Math.min(most, pages.length))
      if (most >= groups.length)
        for (const group of groups) expect(group.pages.some((one) => some.includes(one))).toBe(true)
    }),
  )
})

test('two times are compared on the pages that both saw', () => {
  const report = (states: Record<string, string | null>): CrawlReport => ({
    ...{ at: 1, endedAt: 2, from: 'links', found: 3, forbidden: 0, remarks: [], isStopped: false, spots: [SPOT] },
    pages: Object.entries(states).map(([path, state]) => ({
      path,
      spots: state === null ? {} : { [SPOT]: { state: state as 'there', said: '' } },
    })),
  })
  expect(
    crawlChanges(
      report({ '/a': 'there', '/b': 'there', '/c': null }),
      report({ '/a': 'there', '/b': null, '/d': 'there' }),
    ),
  ).toEqual([{ spot: SPOT, path: '/b', was: 'there', is: null }])
})

test('a still runs nothing and leads nowhere; its styles and pictures are in it', async () => {
  const png = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
    'base64',
  )
  answers.set('/s.css', {
    type: 'text/css',
    body: 'p{color:red;background:url("/p.png")}</style><script>alert(1)</script>',
  })
  answers.set('/p.png', { type: 'image/png', body: png })
  answers.set('/evil.png', { type: 'text/html', body: '<script>alert(1)</script>' })
  answers.set('/', {
    body: `<base href="https://evil.example/"><meta http-equiv="refresh" content="0;url=https://evil.example"><link rel=stylesheet href="${origin}/s.css"><script>alert(1)</script><body onload="alert(1)"><p onclick=alert(1)>Text</p><img src="${origin}/p.png" onerror=alert(1)><img src="${origin}/evil.png"><img src="http://169.254.169.254/x.png"><iframe src="/"></iframe><form action="/send"><button formaction="/x">Go</button></form><svg><script>alert(1)</script></svg><a href="javascript:alert(1)" target=_top>x</a><object data=x></object><noscript><p>No</p></noscript>`,
  })
  const { html } = await stillPage(`${origin}/`, [origin])
  const tree = parsedTree(parsePage(html))
  expect(
    tree.select('script,iframe,object,base,noscript,meta[http-equiv],link,form[action],[formaction],[target]'),
  ).toEqual([])
  const attributes = tree.select('*').flatMap(({ attrs }) => attrs)
  expect(attributes.filter(({ name }) => name.startsWith('on'))).toEqual([])
  const sources = tree.select('[src]').map((one) => tree.attribute(one, 'src'))
  expect(sources).toEqual([expect.stringMatching(/^data:image\/png;base64,/)])
  expect(
    tree
      .select('style')
      .map((one) => tree.ownText(one))
      .join(''),
  ).toContain('url("data:image/png;base64,')
})

test.each([
  '<a href="javascript:alert(1)">x</a>',
  '<a href=" \u0001JaVa\tScRipt\n:alert(1)">x</a>',
  '<a href="java&Tab;script&colon;alert(1)">x</a>',
  '<a href="vbscript:x">x</a><a href="data:text/html,<script>alert(1)</script>">x</a><a href="blob:x">x</a>',
  '<body background="javascript:alert(1)"><table background="javascript:alert(1)"></table>',
  '<svg><a xlink:href="javascript:alert(1)"><text>x</text></a><use xlink:href="data:image/svg+xml;x,javascript:"/></svg>',
  '<svg><set attributeName="onclick" to="alert(1)"/><animate attributeName="href" values="javascript:alert(1)"/></svg>',
  '<svg onload=alert(1)><g onclick=alert(1)></g></svg><math href="javascript:alert(1)"></math>',
  '<img src=x ONERROR=alert(1)><input autofocus onfocus=alert(1)><details ontoggle=alert(1) open>',
  '<form><math><mtext></form><form><mglyph><style></math><img src onerror=alert(1)>',
  '<math><mtext><table><mglyph><style><!--</style><img title="--&gt;&lt;img src=1 onerror=alert(1)&gt;">',
  '<svg></p><style><a id="</style><img src=1 onerror=alert(1)>">',
  '<noscript><p title="</noscript><img src=x onerror=alert(1)>"></noscript><textarea><p title="</textarea><img src=x onerror=alert(1)>">',
  '<xmp><p title="</xmp><img src=x onerror=alert(1)>"></xmp><object data="javascript:alert(1)"></object>',
])('a still of %s has nothing that runs, read again neither', async (body) => {
  answers.set('/', { body })
  const html = await stillPage(`${origin}/`, [origin]).then(
    (still) => still.html,
    (error: unknown) => {
      if (!(error instanceof OutsideProblem)) throw error
      return ''
    },
  )
  const tree = parsedTree(parsePage(html))
  expect(tree.select('script,iframe,object,set,animate')).toEqual([])
  for (const { name, value } of tree.select('*').flatMap(({ attrs }) => attrs)) {
    expect(name).not.toMatch(/^(?:.*:)?on/i)
    // As browsers read an address (URL Standard, section 4.4).
    if (!['title', 'alt', 'value'].includes(name))
      expect(URL.canParse(value) ? new URL(value).protocol : 'none:').toMatch(/^(?:none|https?|mailto|tel|data):$/)
    expect(value).not.toMatch(/^\s*data:(?!image\/)/i)
  }
})

test.each([
  ['deep', '<div>'.repeat(5_000), 'deeper'],
  ['of many parts', '<b></b>'.repeat(60_000), 'more parts'],
])('a page that is %s has no still, and says why', async (_, body, why) => {
  answers.set('/', { body })
  await expect(stillPage(`${origin}/`, [origin])).rejects.toThrow(why)
})

import { once } from 'node:events'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { Readable } from 'node:stream'
import fc from 'fast-check'
import FeedParser from 'feedparser'
import type { FeedId } from '#core/ids'
import { blocksOfHtml } from '#core/feed'
import { allBlocks, type Feed, type LetterBlock } from '#core/letter'
import { plainText } from '#core/text'
import { type LetterGround, letterGround } from '../../../tests/letter-ground'
import * as samples from '../../../tests/tables/samples'
import { Feeds } from './feeds'
import { feedReadings, parseFeed } from './read-feed'
import { openReading } from '../reading'
import { expectComplaints } from '../../../tests/expected-complaints'

expectComplaints(/a fault of ours/)

/** The second example of RFC 4287, section 1.1, with its whitespace. */
const RFC_4287 = `<?xml version="1.0" encoding="utf-8"?>
<feed xmlns="http://www.w3.org/2005/Atom">
  <title type="text">dive into mark</title>
  <subtitle type="html">
    A &lt;em&gt;lot&lt;/em&gt; of effort
    went into making this effortless
  </subtitle>
  <updated>2005-07-31T12:29:29Z</updated>
  <id>tag:example.org,2003:3</id>
  <link rel="alternate" type="text/html" hreflang="en" href="http://example.org/"/>
  <link rel="self" type="application/atom+xml" href="http://example.org/feed.atom"/>
  <rights>Copyright (c) 2003, Mark Pilgrim</rights>
  <generator uri="http://www.example.com/" version="1.0">Example Toolkit</generator>
  <entry>
    <title>Atom draft-07 snapshot</title>
    <link rel="alternate" type="text/html" href="http://example.org/2005/04/02/atom"/>
    <link rel="enclosure" type="audio/mpeg" length="1337" href="http://example.org/audio/ph34r_my_podcast.mp3"/>
    <id>tag:example.org,2003:3.2397</id>
    <updated>2005-07-31T12:29:29Z</updated>
    <published>2003-12-13T08:29:29-04:00</published>
    <author><name>Mark Pilgrim</name><uri>http://example.org/</uri><email>f8dy@example.com</email></author>
    <contributor><name>Sam Ruby</name></contributor>
    <content type="xhtml" xml:lang="en" xml:base="http://diveintomark.org/">
      <div xmlns="http://www.w3.org/1999/xhtml"><p><i>[Update: The Atom draft is finished.]</i></p></div>
    </content>
  </entry>
</feed>`

/** Of the RSS 2.0 specification’s sample, two items as they stand there. */
const RSS_2 = `<?xml version="1.0"?>
<rss version="2.0"><channel>
  <title>Liftoff News</title><link>http://liftoff.msfc.nasa.gov/</link>
  <description>Liftoff to Space Exploration.</description><language>en-us</language>
  <pubDate>Tue, 10 Jun 2003 04:00:00 GMT</pubDate>
  <item>
    <title>Star City</title>
    <link>http://liftoff.msfc.nasa.gov/news/2003/news-starcity.asp</link>
    <description>How do Americans get ready to work with Russians aboard the International Space Station? They take a crash course in culture, language and protocol at Russia's &lt;a href="http://howe.iki.rssi.ru/GCTC/gctc_e.htm"&gt;Star City&lt;/a&gt;.</description>
    <pubDate>Tue, 03 Jun 2003 09:39:21 GMT</pubDate>
    <guid>http://liftoff.msfc.nasa.gov/2003/06/03.html#item573</guid>
  </item>
  <item>
    <title>The Engine That Does More</title>
    <link>http://liftoff.msfc.nasa.gov/news/2003/news-VASIMR.asp</link>
    <description>Before man travels to Mars, NASA hopes to design new engines that will let us fly through the Solar System more quickly.</description>
    <pubDate>Tue, 27 May 2003 08:37:32 GMT</pubDate>
    <guid>http://liftoff.msfc.nasa.gov/2003/05/27.html#item571</guid>
  </item>
</channel></rss>`

/** The same feed by an independent parser. */
async function byAnother(xml: string) {
  const parser = new FeedParser({})
  const items: { title: string; link: string; guid: string; at: number }[] = []
  Readable.from([xml]).pipe(parser)
  for await (const item of parser as unknown as AsyncIterable<FeedParser.Item>)
    items.push({ title: item.title, link: item.link, guid: item.guid, at: item.pubdate?.getTime() ?? NaN })
  return items
}

test.each([
  ['Atom, RFC 4287', RFC_4287],
  ['RSS 2.0, its specification’s sample', RSS_2],
])('%s is read as an independent parser reads it', async (_, xml) => {
  const { posts } = await parseFeed(xml, 'http://example.org/')
  const theirs = await byAnother(xml)
  expect(posts.map(({ title, address, id, at }) => ({ title, link: address, guid: id, at }))).toEqual(theirs)
})

test('what a post says is kept as what it means: links, formats, lists, pictures, by its own address', () => {
  let n = 0
  const blocks = blocksOfHtml(
    `<p>See <a href="/a">this <b>and</b> that</a>.</p><ul><li>one</li><li><i>two</i></li></ul><h3>Then</h3>
     <blockquote>said</blockquote><img src="pic.jpg" alt="A dome"><script>bad()</script><p onclick="x">end</p>`,
    'https://hill.example/posts/1',
    () => `n${(n += 1)}`,
  )
  expect(blocks.map(({ kind }) => kind)).toEqual(['words', 'words', 'words', 'picture', 'words'])
  expect(blocks[0]).toMatchObject({
    text: [
      { spans: [{ text: 'See ' }, { link: 'https://hill.example/a' }, { bold: true }, {}, { text: '.' }] },
      { kind: 'bullets', items: [[{ text: 'one' }], [{ text: 'two', italic: true }]] },
    ],
  })
  expect(blocks[3]).toMatchObject({ address: 'https://hill.example/posts/pic.jpg', alt: 'A dome' })
  expect(JSON.stringify(blocks)).not.toMatch(/bad\(|onclick/)
})

test('whatever stands in a post, no address in it but web, mail and telephone, and reading it ends (property)', () => {
  const piece = fc.constantFrom(
    ...['<p>', '</p>', '<a href="javascript:x">', '<a href="data:x">', '</a>', '<img src="data:image/png;base64,x">'],
    ...[
      '<ul><li>',
      '<b>',
      '<table><td>',
      '<svg><a href="https://e.example">',
      'words ',
      '&lt;b&gt;',
      '\0',
      '\ud800',
      '<!--',
    ],
  )
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 40 }), (pieces) => {
      const blocks = blocksOfHtml(pieces.join(''), 'https://hill.example/', () => 'x1')
      for (const block of allBlocks(blocks)) {
        if (block.kind === 'picture') expect(block.address).toMatch(/^https?:/)
        if (block.kind !== 'words') continue
        expect(plainText(block.text)).not.toMatch(/\0|\p{Surrogate}/u)
        for (const part of block.text)
          for (const { link = 'https:' } of part.kind === 'paragraph' ? part.spans : part.items.flat())
            expect(link).toMatch(/^(https?:|mailto:|tel:)/)
      }
    }),
  )
})

describe('a feed that is read each hour', () => {
  let ground: LetterGround
  let site: Server
  let asked: { etag: string | undefined; answer: number }[]
  let items: { id: string; title: string; at: string }[]
  let breaks: number | null
  const HOUR_MS = 3_600_000
  beforeEach(async () => {
    ground = await letterGround()
    await ground.joins('ada@mail.example')
    asked = []
    items = [{ id: '1', title: 'From before', at: '2026-03-01T10:00:00Z' }]
    breaks = null
    site = createServer((request, response) => {
      const etag = `"${items.map(({ id, title }) => id + title).join('')}"`
      const answer = breaks ?? (request.headers['if-none-match'] === etag ? 304 : 200)
      asked.push({ etag: request.headers['if-none-match'], answer })
      response.writeHead(answer, { ETag: etag, 'Content-Type': 'application/rss+xml' })
      response.end(
        answer !== 200
          ? ''
          : `<rss version="2.0"><channel><title>Blog</title>${items
              .map(
                ({ id, title, at }) =>
                  `<item><title>${title}</title><link>https://hill.example/${id}</link><guid>${id}</guid><pubDate>${new Date(at).toUTCString()}</pubDate><description>Words of ${id}</description></item>`,
              )
              .join('')}</channel></rss>`,
      )
    })
    site.listen(0, '127.0.0.1')
    await once(site, 'listening')
  })
  afterEach(async () => {
    site.close()
    await ground.end()
  })

  const begin = async (changes: Partial<Feed['draft']> = {}) => {
    const address = `http://127.0.0.1:${(site.address() as AddressInfo).port}`
    const draft: Feed['draft'] = {
      ...{ name: 'Blog', address, lists: [samples.list.id], readers: { kind: 'everybody' }, rhythm: { kind: 'each' } },
      subject: [{ kind: 'paragraph', spans: [{ text: '', placeholder: 'post-title' }] }],
      ...{
        zone: 'UTC',
        most: 3,
        logo: null,
        above: [] as LetterBlock[],
        below: [],
        shows: 'summary',
        hasPicture: true,
      },
      ...{ isInArchive: false, goesByItself: true },
      ...changes,
    }
    const id = 'samplefeed' as FeedId
    const feed: Feed = { id, createdAt: samples.createdAt, draft, published: draft, isPaused: false }
    expect(await ground.ledger.takeChanges([samples.change('feed', feed)])).toMatchObject([{ ok: true }])
    const feeds = new Feeds(ground.ledger, ground.now, {
      allowed: [address],
      reading: openReading(undefined, feedReadings),
    })
    await feeds.look()
    return feeds
  }
  const goOn = async (feeds: Feeds, ms = HOUR_MS) => {
    ground.pass(ms)
    await feeds.look()
    await ground.rests()
    return ground.sent.splice(0).map(({ mail }) => mail.subject)
  }

  test('a new post goes once; what is old, edited, doubled or back-dated does not, and nothing is fetched that did not change', async () => {
    const feeds = await begin()
    expect(await goOn(feeds)).toEqual([])
    items.unshift({ id: '2', title: 'New', at: '2026-03-02T11:30:00Z' })
    expect(await goOn(feeds)).toEqual(['New'])
    items[0]!.title = 'New, edited'
    items.unshift({ id: '2', title: 'New', at: '2026-03-02T11:30:00Z' })
    items.push({ id: '0', title: 'Back-dated', at: '2026-02-02T11:30:00Z' })
    expect(await goOn(feeds)).toEqual([])
    expect(await goOn(feeds)).toEqual([])
    expect(asked.map(({ answer }) => answer)).toEqual([200, 304, 200, 200, 304])
    expect(asked.at(-1)!.etag).toBeDefined()
  })

  test('it waits for a yes where its owner wants that', async () => {
    const feeds = await begin({ goesByItself: false })
    items.unshift({ id: '2', title: 'New', at: '2026-03-02T11:30:00Z' })
    expect(await goOn(feeds)).toEqual([])
    const [asking] = await ground.ledger.letters.sendings(10)
    expect(asking).toMatchObject({ state: 'asks' })
    await ground.ledger.letters.yes(asking!.id)
    expect(await goOn(feeds)).toEqual(['New'])
  })

  test('once a day those of the day are one letter, at most so many, at its hour', async () => {
    const feeds = await begin({ rhythm: { kind: 'daily', time: '18:00' }, most: 2 })
    for (const id of ['2', '3', '4']) items.unshift({ id, title: `Post ${id}`, at: `2026-03-02T1${id}:00:00Z` })
    expect(await goOn(feeds)).toEqual([])
    expect((await feeds.state('samplefeed')).waiting).toHaveLength(3)
    const got: string[] = []
    for (let hour = 0; hour < 30; hour += 1)
      for (const subject of await goOn(feeds))
        got.push(`${subject} ${new Date(ground.now()).toISOString().slice(0, 13)}`)
    expect(got).toEqual(['Post 4 (+1) 2026-03-02T18'])
  })

  test('one that cannot be read for whatever reason says so, and is asked again in an hour', async () => {
    const feeds = await begin()
    const broken = new Feeds(ground.ledger, ground.now, {
      allowed: [`http://127.0.0.1:${(site.address() as AddressInfo).port}`],
      reading: { read: () => Promise.reject(new Error('a fault of ours')), end: () => {} },
    })
    items.unshift({ id: '2', title: 'New', at: '2026-03-02T11:30:00Z' })
    const before = asked.length
    for (const minutes of [60, 1, 1]) await goOn(broken, minutes * 60_000)
    expect(asked.length).toBe(before + 1)
    expect((await broken.state('samplefeed')).said).toMatch(/could not be read here/)
    expect(await goOn(feeds)).toEqual(['New'])
  })

  test('one that fails says with what it answered, and goes on when it is there again', async () => {
    const feeds = await begin()
    breaks = 503
    expect(await goOn(feeds)).toEqual([])
    expect((await feeds.state('samplefeed')).said).toBe('It answered 503.')
    breaks = null
    items.unshift({ id: '2', title: 'New', at: '2026-03-02T11:30:00Z' })
    expect(await goOn(feeds)).toEqual(['New'])
    expect((await feeds.state('samplefeed')).said).toBe('')
  })
})

import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { openReading } from '../../src/receiver/reading'
import { feedReadings } from '../../src/receiver/letters/read-feed'
import { serviceReadings } from '../../src/receiver/hand-over/service-readings'
import { siteReadings } from '../../src/receiver/crawl/site-readings'
import { shippedServices } from '#core/connection'

const built = (name: string) => join(import.meta.dirname, '../../dist/server', `${name}.js`)
const feedOf = (content: string) =>
  `<?xml version="1.0"?><feed xmlns="http://www.w3.org/2005/Atom"><title>Hill</title><entry><id>a</id><title>One</title><link href="https://hill.example/1"/><content type="html">${content.replaceAll('<', '&lt;')}</content></entry></feed>`
const deep = (open: string, close: string, levels: number) => open.repeat(levels) + close.repeat(levels)
const WORDS = /^It (?:could not be read|took too long|answered with something)/

/** What a reading came to: read, or the words that an owner is told. */
async function outcomeOf(reading: Promise<unknown>): Promise<string> {
  return reading.then(
    () => 'read',
    (error: unknown) => String((error as Error).message),
  )
}

test('a feed of any shape is read or refused in words, and the next one is read', async () => {
  const reading = openReading(built('feed-thread'), feedReadings, 5_000)
  const good = () => reading.read('feed', feedOf('<p>Clear tonight.</p>'), 'https://hill.example/feed')
  try {
    for (const [name, xml] of [
      ['an entry nested 6,000 deep', feedOf(deep('<div>', '</div>', 6_000))],
      ['an entry nested 200,000 deep', feedOf(deep('<b>', '</b>', 200_000))],
      ['elements nested 100,000 deep', `<feed>${deep('<a>', '</a>', 100_000)}</feed>`],
      ['two megabytes of elements', `<feed>${'<entry><id>x</id></entry>'.repeat(30_000)}</feed>`],
      ['one text of two megabytes', feedOf('x'.repeat(2_000_000))],
      ['none', 'nothing of the kind'],
    ] as const) {
      const outcome = await outcomeOf(reading.read('feed', xml, 'https://hill.example/feed'))
      expect([name, outcome === 'read' || WORDS.test(outcome)], outcome).toEqual([name, true])
      expect((await good()).posts.map(({ title }) => title)).toEqual(['One'])
    }
  } finally {
    reading.end()
  }
})

test('a thread that takes too much time or memory is ended, and begun anew', async () => {
  const reading = openReading(built('feed-thread'), feedReadings, 300)
  const slow = feedOf('<p>x</p>'.repeat(200_000))
  expect(await outcomeOf(reading.read('feed', slow.repeat(4), 'https://hill.example/'))).toMatch(WORDS)
  reading.end()
  const pages = openReading(built('site-thread'), siteReadings, 60_000)
  const page = { address: 'https://hill.example/', html: '<i>'.repeat(3_000_000), policies: [] }
  const before = process.memoryUsage.rss()
  expect(await outcomeOf(pages.read('page', page as never, []))).toMatch(WORDS)
  expect(process.memoryUsage.rss() - before).toBeLessThan(700e6)
  expect(await pages.read('sitemap', Buffer.from('<urlset></urlset>'))).toMatchObject({ kind: 'pages' })
  pages.end()
})

test('answers of services of any size and depth are judged beside the thread of sign-ups', async () => {
  const reading = openReading(built('service-thread'), serviceReadings, 10_000)
  const about = {
    service: shippedServices('http://127.0.0.1:4330')[0]!,
    name: 'lists' as const,
    shown: { method: 'GET', address: 'https://list.example/lists', headers: {}, body: null },
    key: 'key-0123456789',
  }
  for (const [name, body, means] of [
    [
      'many lists',
      JSON.stringify({ lists: Array.from({ length: 50_000 }, (_, id) => ({ id: `${id}`, name: 'key-0123456789' })) }),
      'done',
    ],
    ['deep', deep('[', ']', 500_000), 'no-json'],
    ['no JSON', '{'.repeat(100_000), 'no-json'],
  ] as const) {
    const judged = await reading.read('answer', about as never, { status: 200, headers: {}, body }, 0)
    expect([name, judged.means]).toEqual([name, means])
    expect(JSON.stringify(judged.exchange)).not.toContain('key-0123456789')
  }
  reading.end()
})

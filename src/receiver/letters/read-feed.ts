import Parser from 'rss-parser'
import { blocksOfHtml, summaryOf } from '#core/feed'
import { allBlocks, type LetterBlock, type Post } from '#core/letter'
import { keepableText } from '#core/text'
import { guardedRequest, OutsideProblem } from '../outside'
import type { Reading } from '../reading'

/** Largest feed that is read, in bytes. */
const MOST_BYTES = 2 * 1024 * 1024
const MOST_POSTS = 100
/** The largest takes about three seconds. */
export const FEED_MS = 20_000
const SUMMARY_LETTERS = 400

export interface ReadFeed {
  title: string
  posts: Post[]
  /** Validators (RFC 9110, section 8.8), for the next reading; empty for none. */
  etag: string
  lastModified: string
}

interface Item {
  guid?: string
  id?: string
  link?: string
  title?: string
  isoDate?: string
  content?: string
  summary?: string
  encoded?: string
  enclosure?: { url?: string; type?: string }
}

/** @property allowed origins of this computer that may be read all the same: the stand-ins */
export interface FeedParts {
  allowed: readonly string[]
  reading: Reading<typeof feedReadings>
}

/**
 * Reads a site's feed, RSS 2.0 or Atom (RFC 4287), through the guarded request.
 *
 * @returns null where nothing changed since the validators
 * @throws OutsideProblem in words for the owner
 */
export async function readFeed(
  address: string,
  { etag, lastModified }: { etag: string; lastModified: string },
  { allowed, reading }: FeedParts,
): Promise<ReadFeed | null> {
  const answer = await guardedRequest(address.trim(), {
    headers: {
      Accept: 'application/rss+xml, application/atom+xml, application/xml;q=0.9, text/xml;q=0.8',
      ...(etag !== '' && { 'If-None-Match': etag }),
      ...(lastModified !== '' && { 'If-Modified-Since': lastModified }),
    },
    allowed,
    limits: { bytes: MOST_BYTES },
  })
  if (answer.status === 304) return null
  if (answer.status !== 200) throw new OutsideProblem(`It answered ${answer.status}.`)
  const one = (name: string) => answer.headers[name]?.[0]?.slice(0, 500) ?? ''
  return {
    ...(await reading.read('feed', answer.body.toString('utf8'), answer.address)),
    etag: one('etag'),
    lastModified: one('last-modified'),
  }
}

/** @throws OutsideProblem where it is no feed */
export async function parseFeed(xml: string, base: string): Promise<Pick<ReadFeed, 'title' | 'posts'>> {
  const parser = new Parser<object, Item>({ customFields: { item: [['content:encoded', 'encoded']] } })
  let feed: Awaited<ReturnType<typeof parser.parseString>>
  try {
    feed = await parser.parseString(xml.replace(/^\ufeff/, ''))
  } catch {
    throw new OutsideProblem('It answered with something that is no feed (RSS or Atom).')
  }
  const posts = feed.items.slice(0, MOST_POSTS).flatMap((item) => {
    const post = postOf(item, base)
    return post === null ? [] : [post]
  })
  return { title: line(feed.title ?? ''), posts }
}

/** What of feeds is read in the room for reading. */
export const feedReadings = { feed: parseFeed }

/** Ids of blocks within one post; a letter gives them anew. */
function counter(): () => string {
  let n = 0
  return () => `p${(n += 1)}`
}

function postOf(item: Item, base: string): Post | null {
  const address = webAddress(item.link ?? '', base)
  const id = keepableText((item.guid ?? item.id ?? address).trim(), 500)
  const newId = counter()
  const whole = blocksOfHtml(item.encoded ?? item.content ?? item.summary ?? '', address || base, newId)
  const short = blocksOfHtml(item.summary ?? item.content ?? item.encoded ?? '', address || base, newId)
  const title = line(item.title ?? '') || line(address)
  if ((id === '' && address === '') || title === '') return null
  const at = item.isoDate === undefined ? NaN : Date.parse(item.isoDate)
  const enclosed = item.enclosure?.type?.startsWith('image/') === true ? (item.enclosure.url ?? '') : ''
  return {
    ...{ id, title, address, at: Number.isNaN(at) ? null : at },
    summary: summaryOf(short, SUMMARY_LETTERS),
    whole,
    picture: webAddress(enclosed, base) || firstPicture(whole) || firstPicture(short),
  }
}

function firstPicture(blocks: readonly LetterBlock[]): string {
  const first = allBlocks(blocks).find((block) => block.kind === 'picture')
  return first?.kind === 'picture' ? first.address : ''
}

function webAddress(typed: string, base: string): string {
  if (typed.trim() === '' || !URL.canParse(typed.trim(), base)) return ''
  const { href, protocol, username } = new URL(typed.trim(), base)
  return (protocol === 'https:' || protocol === 'http:') && username === '' ? href.slice(0, 2_000) : ''
}

/** One line of words, for a subject. */
function line(text: string): string {
  return keepableText(text, 300)
    .replaceAll(/[\p{Cc}\u2028\u2029]+/gu, ' ')
    .replaceAll(/ {2,}/g, ' ')
    .trim()
}

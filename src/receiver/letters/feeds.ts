import { createHash } from 'node:crypto'
import type { FeedState } from '#core/api'
import type { FeedId, SendingId } from '#core/ids'
import { type Feed, type FeedContent, letterOfPosts, namesOf, newPosts, nextRound, type Post } from '#core/letter'
import { messageWordsOf } from '#core/message'
import { hasPassed } from '../clock'
import { complain } from '../log'
import type { Ledger } from '../ledger'
import { OutsideProblem } from '../outside'
import { newId } from '../random'
import type { RecurringJob } from '../work'
import { type FeedParts, readFeed, type ReadFeed } from './read-feed'

const MINUTE_MS = 60_000
const READ_EVERY_MS = 60 * MINUTE_MS
/** Names of posts that are known again; a feed shows some tens. */
const MOST_KNOWN = 1_000
const NAMED = 'feed '

/** What is kept of a feed that was begun. Times in milliseconds since 1970. */
interface Kept {
  address: string
  begunAt: number
  readAt: number | null
  etag: string
  lastModified: string
  title: string
  posts: number
  said: string
  /** Null before it was read for the first time. */
  known: string[] | null
  waiting: Post[]
  /** When what waits becomes a letter; null while nothing does. */
  roundAt: number | null
}

/** Reads the owner's feeds, each hour, and makes letters of what is new. */
export class Feeds {
  constructor(
    private readonly ledger: Ledger,
    private readonly now: () => number,
    private readonly parts: FeedParts,
  ) {}

  job(): RecurringJob {
    return {
      name: 'feeds',
      everyMs: MINUTE_MS,
      firstAfterMs: 10_000,
      longestMs: 10 * MINUTE_MS,
      endsTimes: true,
      run: () => this.look(),
    }
  }

  /** Reads those whose hour has come, and sends what is due. */
  async look(): Promise<void> {
    for (const feed of this.ledger.published().feeds()) {
      if (feed.isPaused) continue
      try {
        const kept = await this.kept(feed.id)
        const readAt = kept?.readAt ?? null
        if (readAt === null || hasPassed(readAt, READ_EVERY_MS, this.now())) await this.read(feed)
        await this.sendDue(feed)
      } catch (error) {
        complain(error)
      }
    }
  }

  /** Reads one now. */
  async read({ id, published }: Feed): Promise<void> {
    const content = published!
    const before = await this.kept(id)
    // Another address is another feed: what it holds already is no news.
    const kept = before === null || before.address !== content.address.trim() ? this.started(content) : before
    const at = this.now()
    try {
      const read = await readFeed(content.address, kept, this.parts)
      if (read === null) return this.keep(id, { ...kept, readAt: at, said: '' })
      const known = kept.known === null ? null : new Set(kept.known)
      const news = newPosts(read.posts, known, kept.begunAt)
      const waiting = [...kept.waiting, ...news]
      await this.keep(id, {
        ...kept,
        ...{ readAt: at, said: '', title: read.title, posts: read.posts.length },
        ...{ etag: read.etag, lastModified: read.lastModified, waiting },
        known: [...new Set([...read.posts.flatMap(namesOf), ...(kept.known ?? [])])].slice(0, MOST_KNOWN),
        roundAt: waiting.length === 0 ? null : (kept.roundAt ?? nextRound(content, at)),
      })
    } catch (error) {
      // Whatever it was: it is told, and tried again in an hour, not each minute.
      if (!(error instanceof OutsideProblem)) complain(error)
      const said = error instanceof OutsideProblem ? error.message : 'It could not be read here. The log says more.'
      await this.keep(id, { ...kept, readAt: at, said })
    }
  }

  /** As it is at an address now; nothing is kept. @throws OutsideProblem in words for the owner */
  preview(address: string): Promise<ReadFeed | null> {
    return readFeed(address, { etag: '', lastModified: '' }, this.parts)
  }

  /** Makes the letters whose moment has come. The same posts give the same letter, however often this is begun. */
  async sendDue({ id, published }: Feed): Promise<void> {
    const content = published!
    const kept = await this.kept(id)
    if (kept === null || kept.roundAt === null || kept.roundAt > this.now() || kept.waiting.length === 0) return
    const newest = [...kept.waiting].sort((one, other) => (other.at ?? 0) - (one.at ?? 0)).slice(0, content.most)
    const letters = content.rhythm.kind === 'each' ? newest.toReversed().map((post) => [post]) : [newest]
    for (const posts of letters) {
      const name = posts.map(({ id, address }) => id || address).join('\n')
      const sending = `f${createHash('sha256').update(`${id}\n${name}`).digest('hex').slice(0, 24)}` as SendingId
      await this.ledger.letters.send(
        {
          id: sending,
          source: { kind: 'feed', id },
          content: this.letterOf(content, posts),
          when: { kind: 'now' },
        },
        !content.goesByItself,
      )
    }
    await this.keep(id, { ...kept, waiting: [], roundAt: null })
  }

  letterOf(content: FeedContent, posts: readonly Post[]) {
    const language = this.ledger.published().mail(content.lists[0]!)?.language ?? 'en'
    return letterOfPosts(content, posts, { readOn: messageWordsOf(language).readOn, newId: () => newId<string>() })
  }

  async state(id: string): Promise<FeedState> {
    const kept = await this.kept(id)
    return {
      readAt: kept?.readAt ?? null,
      said: kept?.said ?? '',
      title: kept?.title ?? '',
      posts: kept?.posts ?? 0,
      waiting: kept?.waiting.map(({ title }) => title) ?? [],
      nextAt: kept?.roundAt ?? null,
    }
  }

  private started(content: FeedContent): Kept {
    return {
      ...{ address: content.address.trim(), begunAt: this.now(), readAt: null, etag: '', lastModified: '' },
      ...{ title: '', posts: 0, said: '', known: null, waiting: [], roundAt: null },
    }
  }

  private kept(id: string): Promise<Kept | null> {
    return this.ledger.values.value(`${NAMED}${id}`) as Promise<Kept | null>
  }

  private keep(id: FeedId, kept: Kept): Promise<void> {
    return this.ledger.values.keep(`${NAMED}${id}`, kept)
  }
}

import { z } from 'zod'
import { feedIdSchema, listIdSchema } from '#core/ids'
import { pictureUseSchema } from '#core/picture'
import { harmlessText, plainText, type RichText, richText, richTextSchema, type Span } from '#core/text'
import { dayIn, momentIn } from '#core/zone'
import { type LetterBlock, letterBlockSchema, type LetterContent, letterReadersSchema } from './letter'
import { timeSchema, zoneSchema } from './when'

const DAY_MS = 86_400_000
/** Of a logo, in CSS pixels. */
export const MOST_LOGO = 200

/** How posts of a site's feed become letters. */
export const feedContentSchema = z.strictObject({
  name: harmlessText.max(200),
  /** Of the feed, RSS or Atom. */
  address: harmlessText.max(2_000),
  /** None while it is not said. */
  lists: z.array(listIdSchema).max(100),
  readers: letterReadersSchema,
  /** Each post a letter of its own, or what is new of a day or a week in one. */
  rhythm: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('each') }),
    z.strictObject({ kind: z.literal('daily'), time: timeSchema }),
    /** @property weekday 0 for Monday */
    z.strictObject({ kind: z.literal('weekly'), weekday: z.int().min(0).max(6), time: timeSchema }),
  ]),
  /** Of the hours above. */
  zone: zoneSchema,
  /** As many posts stand in one letter; of more, the newest. */
  most: z.int().min(1).max(20),
  /** One paragraph without formats; a placeholder for the post's title among it. */
  subject: richTextSchema,
  logo: pictureUseSchema.nullable(),
  /** What stands above and below the posts. */
  above: z.array(letterBlockSchema).max(50),
  below: z.array(letterBlockSchema).max(50),
  /** What each post shows besides its title. */
  shows: z.enum(['summary', 'whole']),
  hasPicture: z.boolean(),
  isInArchive: z.boolean(),
  /** Whether a letter goes without asking its owner. */
  goesByItself: z.boolean(),
})
export type FeedContent = z.infer<typeof feedContentSchema>

export const feedSchema = z.strictObject({
  id: feedIdSchema,
  createdAt: z.iso.datetime(),
  draft: feedContentSchema,
  /** As it is read; null before it is begun. */
  published: feedContentSchema.extend({ lists: z.array(listIdSchema).min(1).max(100) }).nullable(),
  isPaused: z.boolean(),
})
export type Feed = z.infer<typeof feedSchema>

/** One post of a feed, as far as a letter says of it. */
export interface Post {
  /** By which it is known again, however often it is edited. */
  id: string
  title: string
  /** Its page; empty for none that can be followed. */
  address: string
  /** When it appeared, in milliseconds since 1970; null where the feed does not say. */
  at: number | null
  summary: RichText
  whole: LetterBlock[]
  /** Address of its first picture; empty for none. */
  picture: string
}

/**
 * Of the posts of a feed, those that are news: not known, and not from before it was begun. Of two with the same address
 * or the same id only the first. The first reading of a feed has no news.
 *
 * @param known ids and addresses of posts that were seen before; null at the first reading
 * @param since when the feed was begun, in milliseconds since 1970
 */
export function newPosts(posts: readonly Post[], known: ReadonlySet<string> | null, since: number): Post[] {
  if (known === null) return []
  const seen = new Set(known)
  return posts.filter((post) => {
    const names = namesOf(post)
    const isNew = names.every((name) => !seen.has(name)) && (post.at === null || post.at >= since)
    for (const name of names) seen.add(name)
    return isNew
  })
}

/** By which a post is known again. */
export function namesOf({ id, address }: Pick<Post, 'id' | 'address'>): string[] {
  return [...new Set([id, address].filter((name) => name !== ''))]
}

/** The next moment at which what waits becomes a letter, in milliseconds since 1970; `now` where each post is one. */
export function nextRound({ rhythm, zone }: Pick<FeedContent, 'rhythm' | 'zone'>, now: number): number {
  if (rhythm.kind === 'each') return now
  for (let ahead = 0; ahead <= 8; ahead += 1) {
    const day = dayIn(zone, now + ahead * DAY_MS)
    const weekday = (new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7
    const at = momentIn(zone, day, rhythm.time)
    if (at > now && (rhythm.kind === 'daily' || weekday === rhythm.weekday)) return at
  }
  return now + DAY_MS
}

/**
 * The letter that posts become, newest first.
 *
 * @param readOn words of the link from a post's beginning to all of it
 * @param newId a new id for a block
 */
export function letterOfPosts(
  feed: FeedContent,
  posts: readonly Post[],
  { readOn, newId }: { readOn: string; newId(): string },
): LetterContent {
  const shown = [...posts].sort((one, other) => (other.at ?? 0) - (one.at ?? 0)).slice(0, feed.most)
  const logo: LetterBlock[] =
    feed.logo === null
      ? []
      : [
          {
            ...{ id: newId(), kind: 'picture', picture: feed.logo, address: '', alt: feed.name, link: '' },
            width: feed.logo.width > 140 ? 'half' : 'small',
          },
        ]
  const blocks = shown.flatMap((post, at): LetterBlock[] => [
    ...(at > 0 ? [{ id: newId(), kind: 'rule' } as const] : []),
    ...postBlocks(post, feed, readOn, newId),
  ])
  return {
    subject: subjectOf(feed.subject, shown),
    preview: plainText(shown[0]?.summary ?? []).slice(0, 120),
    isPlain: false,
    blocks: [...logo, ...anew(feed.above, newId), ...blocks, ...anew(feed.below, newId)].slice(0, 200),
    lists: feed.lists,
    readers: feed.readers,
    isInArchive: feed.isInArchive,
    countsLinks: false,
  }
}

function postBlocks(post: Post, feed: FeedContent, readOn: string, newId: () => string): LetterBlock[] {
  const title: Span = { text: post.title, ...(post.address !== '' && { link: post.address }) }
  return [
    { id: newId(), kind: 'words', as: 'title', text: [{ kind: 'paragraph', spans: [title] }] },
    ...(feed.hasPicture && post.picture !== '' && feed.shows === 'summary'
      ? [
          {
            ...{ id: newId(), kind: 'picture' as const, picture: null, address: post.picture, alt: post.title },
            ...{ link: post.address, width: 'full' as const },
          },
        ]
      : []),
    ...(feed.shows === 'whole' && post.whole.length > 0
      ? anew(
          post.whole.filter(({ kind }) => feed.hasPicture || kind !== 'picture'),
          newId,
        )
      : [{ id: newId(), kind: 'words' as const, as: 'text' as const, text: post.summary }]),
    ...(post.address === ''
      ? []
      : [
          {
            ...{ id: newId(), kind: 'words' as const, as: 'text' as const },
            text: [{ kind: 'paragraph' as const, spans: [{ text: readOn, link: post.address }] }],
          },
        ]),
  ]
}

/** What was typed as the subject, with the titles of the posts in the place of the placeholder. */
function subjectOf(subject: RichText, posts: readonly Post[]): RichText {
  const [first] = posts
  const title = posts.length > 1 ? `${first!.title} (+${posts.length - 1})` : (first?.title ?? '')
  const words = subject
    .flatMap((block) => (block.kind === 'paragraph' ? block.spans : block.items.flat()))
    .map((span): Span => (span.placeholder === 'post-title' ? { text: title } : span))
  return words.length === 0 ? richText(title) : [{ kind: 'paragraph', spans: words }]
}

const anew = (blocks: readonly LetterBlock[], newId: () => string): LetterBlock[] =>
  blocks.map((block) => ({ ...block, id: newId() }))

/** What keeps a feed from being begun; null where nothing does. */
export function feedProblem({ name, address, lists }: FeedContent): string | null {
  if (name.trim() === '') return 'The feed has no name.'
  if (!/^https?:\/\/\S+$/i.test(address.trim())) return 'The feed’s address begins with https://.'
  return lists.length === 0 ? 'No list gets its letters.' : null
}

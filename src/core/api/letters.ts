import { z } from 'zod'
import { addressesIn, ofPeople } from '#core/privacy'
import { feedIdSchema, memberIdSchema, sendingIdSchema, seriesIdSchema } from '#core/ids'
import {
  letterBodySchema,
  letterContentSchema,
  copyStates,
  letterTimeSchema,
  sendingSchema,
  sendingSourceSchema,
} from '#core/letter'
import { CONTRADICTS, route } from './route'

/** A link of a letter as it was tried. */
const triedLinkSchema = z.object({
  address: z.string(),
  block: z.string(),
  ok: z.boolean(),
  /** What it answered, or why it could not be asked. */
  said: addressesIn(z.string()),
})
export type TriedLink = z.infer<typeof triedLinkSchema>

/** Who would get a letter now, and who would not. */
const readersSchema = z.object({
  gets: z.int(),
  /** On several of its lists: they get it once. */
  again: z.int(),
  /** On its lists and confirmed, but left out by the filter. */
  filtered: z.int(),
  waiting: z.int(),
  left: z.int(),
  bounced: z.int(),
  /** How many have no time zone known. */
  withoutZone: z.int(),
  /** When the last one would leave at the pace of now, in milliseconds since 1970; null where no mail goes. */
  lastOutAt: z.int().nullable(),
  pace: z.object({ minute: z.int(), hour: z.int(), day: z.int() }),
  isStandIn: z.boolean(),
  /** First names of some of them, for a look at what they get. */
  examples: ofPeople(z.array(z.object({ member: memberIdSchema, firstName: z.string(), email: z.string() }))),
})
export type LetterReadersNow = z.infer<typeof readersSchema>

const trialStepSchema = z.object({ name: z.string(), ok: z.boolean(), said: addressesIn(z.string()) })
export type LetterTrialStep = z.infer<typeof trialStepSchema>

const pressesSchema = z.object({ address: z.string(), presses: z.int() })

/** What somebody got. */
const copySchema = z.object({
  sending: sendingIdSchema,
  title: z.string(),
  source: sendingSourceSchema,
  state: z.enum(copyStates),
  /** When it came to that, in milliseconds since 1970. */
  at: z.int(),
  hasLeft: z.boolean(),
  hasComplained: z.boolean(),
})
export type LetterCopy = z.infer<typeof copySchema>

const feedStateSchema = z.object({
  /** When it was read last; null for never. Times in milliseconds since 1970. */
  readAt: z.int().nullable(),
  /** What it answered last where it could not be read; empty where it could. */
  said: addressesIn(z.string()),
  title: z.string(),
  posts: z.int(),
  /** Titles of posts that wait for the next letter. */
  waiting: z.array(z.string()),
  nextAt: z.int().nullable(),
})
export type FeedState = z.infer<typeof feedStateSchema>

const seriesStateSchema = z.object({
  /** How many are under way, and how many have all of it. */
  going: z.int(),
  done: z.int(),
  /** By step, who waits for it next. */
  next: z.record(z.string(), z.int()),
})
export type SeriesState = z.infer<typeof seriesStateSchema>

/** Something about letters that waits for the owner. */
const needSchema = z.object({
  kind: z.enum(['asks', 'stopped', 'feed']),
  id: z.string(),
  title: z.string(),
  said: addressesIn(z.string()),
})
export type LetterNeed = z.infer<typeof needSchema>

const params = z.object({ id: sendingIdSchema })
const one = z.object({ sending: sendingSchema })

export const lettersRoutes = {
  listSendings: route({
    method: 'get',
    path: '/letters',
    needs: 'see',
    summary:
      'Letters that wait, go or went, without their blocks, newest first, at most 200; those of a series are one for each of its letters.',
    answer: z.object({ sendings: z.array(sendingSchema) }),
  }),
  readSending: route({
    method: 'get',
    path: '/letters/{id}',
    needs: 'see',
    summary: 'One of them, with the presses of its links where they are counted, and its copies by hour.',
    params,
    answer: z.object({
      sending: sendingSchema,
      links: z.array(pressesSchema),
      lastOutAt: z.int().nullable(),
      webCopy: z.string(),
    }),
    refusals: { 404: 'There is none.' },
  }),
  send: route({
    method: 'post',
    path: '/letters',
    needs: 'edit',
    summary: 'Has a letter go out. Sent again with the same id, it stays as it was.',
    body: z.strictObject({
      id: sendingIdSchema,
      source: sendingSourceSchema,
      content: letterContentSchema,
      when: letterTimeSchema,
    }),
    answer: one,
    refusals: { ...CONTRADICTS },
  }),
  changeSending: route({
    method: 'post',
    path: '/letters/{id}/state',
    needs: 'edit',
    summary: 'Says yes to a letter that asks, stops one that goes, goes on with it, or cancels the rest.',
    params,
    body: z.strictObject({ to: z.enum(['yes', 'stop', 'go-on', 'cancel']) }),
    answer: one,
    refusals: { 404: 'There is none.', ...CONTRADICTS },
  }),
  mendSending: route({
    method: 'put',
    path: '/letters/{id}/words',
    needs: 'edit',
    summary: 'Mends the words of what is not sent yet. Who got it keeps theirs.',
    params,
    body: z.strictObject({ body: letterBodySchema }),
    answer: one,
    refusals: { 404: 'There is none.', ...CONTRADICTS },
  }),
  readReaders: route({
    method: 'post',
    path: '/letters/readers',
    needs: 'see',
    summary: 'Who would get a letter now, who would not and why, and when the last would leave.',
    body: z.strictObject({ content: letterContentSchema }),
    answer: readersSchema,
    refusals: { 403: 'Its filter asks what the key does not see.' },
  }),
  tryLinks: route({
    method: 'post',
    path: '/letters/links',
    needs: 'edit',
    summary: 'Asks each address that a letter leads to.',
    body: z.strictObject({ content: letterContentSchema }),
    answer: z.object({ links: z.array(triedLinkSchema) }),
  }),
  sendTestLetter: route({
    method: 'post',
    path: '/letters/test',
    needs: 'edit',
    summary: 'Sends a letter to one address at once, as it stands.',
    body: z.strictObject({ to: z.string().max(320), content: letterContentSchema }),
    answer: z.object({ ok: z.boolean(), said: addressesIn(z.string()) }),
  }),
  tryLetter: route({
    method: 'post',
    path: '/letters/trial',
    needs: 'edit',
    summary:
      'Has a made-up reader get a letter: its mail is parsed, its own links are followed, and they leave by one press.',
    body: z.strictObject({ content: letterContentSchema }),
    answer: z.object({ steps: z.array(trialStepSchema) }),
  }),
  listLettersOf: route({
    method: 'get',
    path: '/letters/of/{member}',
    needs: 'see-people',
    summary: 'Which letters somebody got, newest first, at most 200.',
    params: z.object({ member: memberIdSchema }),
    answer: z.object({ letters: z.array(copySchema) }),
  }),
  readFeed: route({
    method: 'get',
    path: '/feeds/{id}',
    needs: 'see',
    summary: 'How a feed was read last, and what waits for the next letter.',
    params: z.object({ id: feedIdSchema }),
    answer: feedStateSchema,
  }),
  lookAtFeed: route({
    method: 'post',
    path: '/feeds/look',
    needs: 'edit',
    summary: 'Reads a feed once, and writes the letter that its newest posts would become. Nothing is kept.',
    body: z.strictObject({ content: z.unknown() }),
    answer: z.object({
      ok: z.boolean(),
      said: addressesIn(z.string()),
      title: z.string(),
      posts: z.array(z.object({ title: z.string(), at: z.int().nullable(), address: z.string() })),
      letter: letterContentSchema.nullable(),
    }),
  }),
  readFeedNow: route({
    method: 'post',
    path: '/feeds/{id}/read',
    needs: 'edit',
    summary: 'Reads a feed now instead of at its next hour.',
    params: z.object({ id: feedIdSchema }),
    answer: feedStateSchema,
    refusals: { 404: 'It is not begun.' },
  }),
  readSeries: route({
    method: 'get',
    path: '/series/{id}',
    needs: 'see',
    summary: 'How many are under way in a series, and where.',
    params: z.object({ id: seriesIdSchema }),
    answer: seriesStateSchema,
  }),
  lettersNeedingHand: route({
    method: 'get',
    path: '/letters-needing-hand',
    needs: 'see',
    summary: 'What about letters needs its owner: those that ask, that stopped, and feeds that fail.',
    answer: z.object({ needs: z.array(needSchema) }),
  }),
}

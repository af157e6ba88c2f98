import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import {
  changeOutcomeSchema,
  commandOutcomeSchema,
  entriesPageSchema,
  journalCheckSchema,
  memberDigestsSchema,
  newsSchema,
  objectsPageSchema,
  recoveredSchema,
  refilledSchema,
} from '#core/api'
import { journalIdSchema, listIdSchema } from '#core/ids'
import { entrySchema } from '#core/journal'
import { answers, body, done, readings, refused } from '../../../http/answers'

const wholeNumber = (description: string) =>
  z.coerce.number().int().min(0).catch(0).openapi({ type: 'integer', minimum: 0, description })
const cursorQuery = z.object({
  after: wholeNumber('The cursor: the last number already known; 0 for all.'),
  mark: z.string().optional().openapi({
    description: 'The mark that came with the cursor. 409 when this history has another one there.',
  }),
  limit: wholeNumber('At most this many.'),
})

/** Read one by one by its handler, so that one that cannot be read is refused by itself. */
const readLater = (component: string) => z.unknown().openapi({ allOf: [{ $ref: `#/components/schemas/${component}` }] })

export const readJournal = createRoute({
  method: 'get',
  path: '/journal',
  summary: 'Journal entries after a cursor, oldest first, at most 5000.',
  request: { query: cursorQuery },
  responses: { ...answers, ...refused, 200: done(entriesPageSchema) },
})

export const readObjects = createRoute({
  method: 'get',
  path: '/objects',
  summary:
    'What the owner makes (sites, lists, forms with drafts, versions, spots, themes, pictures without their bytes), as far as it changed after a cursor. A null body was taken away.',
  request: { query: cursorQuery },
  responses: {
    ...answers,
    ...refused,
    200: done(objectsPageSchema),
  },
})

export const followNews = createRoute({
  method: 'get',
  path: '/stream',
  summary: 'One line of JSON at each news, an empty object as a sign of life. Stays open.',
  responses: {
    200: {
      description: 'Lines of JSON.',
      content: {
        'application/x-ndjson': {
          schema: newsSchema,
        },
      },
    },
  },
})

export const carryOutCommands = createRoute({
  method: 'post',
  path: '/commands',
  summary:
    'Carries out changes to people, each at most once however often it is sent, each with an outcome of its own.',
  request: body(z.strictObject({ commands: z.array(readLater('Command')).max(1000) })),
  responses: { ...answers, ...readings, 200: done(z.object({ outcomes: z.array(commandOutcomeSchema) })) },
})

export const takeChanges = createRoute({
  method: 'post',
  path: '/changes',
  summary:
    'Takes in changes to what the owner makes, each with an outcome of its own: the new revision, the conflict with what somebody else changed, or what is wrong with it. A version never changes. With `together`, all are taken or none is: the outcome of each that was not taken says why, and those of the others do not hold.',
  request: body(z.strictObject({ changes: z.array(readLater('Change')).max(200), together: z.boolean().optional() })),
  responses: { ...answers, ...readings, 200: done(z.object({ outcomes: z.array(changeOutcomeSchema) })) },
})

export const checkJournal = createRoute({
  method: 'get',
  path: '/journal/check',
  summary:
    'Whether entries after a number are as they were written, some thousands at a time: marks are computed anew over them.',
  request: { query: z.object({ after: wholeNumber('The last number that was checked; 0 for the beginning.') }) },
  responses: { ...answers, 200: done(journalCheckSchema) },
})

export const readDigests = createRoute({
  method: 'get',
  path: '/lists/{list}/digests',
  summary:
    'What is kept of the people of a list, each by a digest, some thousands at a time: held against what the journal makes of them, a row that was changed shows.',
  request: {
    params: z.object({ list: listIdSchema }),
    query: z.object({ after: wholeNumber('What the page before gave as next; 0 for the beginning.') }),
  },
  responses: { ...answers, 200: done(memberDigestsSchema) },
})

export const refill = createRoute({
  method: 'post',
  path: '/refill',
  summary:
    'Continues an empty or partly refilled journal from a copy of it. 409 where the numbers do not follow, or where an entry cannot.',
  request: body(z.strictObject({ journal: journalIdSchema, entries: z.array(entrySchema).max(5000) })),
  responses: { ...answers, ...readings, ...refused, 200: done(refilledSchema) },
})

export const recover = createRoute({
  method: 'post',
  path: '/recover',
  summary:
    'Takes in again, under new numbers, what a copy of the journal has after the last entry that both have in common.',
  request: body(z.strictObject({ common: z.int().min(0), entries: z.array(entrySchema).max(5000) })),
  responses: { ...answers, ...readings, 200: done(recoveredSchema) },
})

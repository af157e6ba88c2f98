import { z } from 'zod'
import { CONTRADICTS, route } from './route'
import { type CommandId, journalIdSchema, listIdSchema, memberIdSchema } from '#core/ids'
import { entrySchema } from '#core/journal'
import type { Refusal } from '#core/list'
import { type Body, type ChangeRefusal, type Kind, kinds } from '#core/sync'

/** Numbers of the newest entry and of the newest change to what the owner makes. */
export interface News {
  latest: number
  latestChange: number
}
/** A line of the stream of news; one without numbers only shows that it lives. */
export const newsSchema = z.object({ latest: z.int().optional(), latestChange: z.int().optional() })

/** Of a stretch of one of the receiver's two orders: the cursor and mark from which to go on. */
const stretch = { journal: journalIdSchema, cursor: z.int(), mark: z.string(), latest: z.int() }

const entriesPageSchema = z.object({ entries: z.array(entrySchema), ...stretch })
/** Kinds that a newer receiver knows are taken along: who keeps them asks for a reload. */
const entriesReadSchema = z.object({
  entries: z.array(z.looseObject({ n: z.int(), kind: z.string() }) as unknown as typeof entrySchema),
  ...stretch,
})

/** What a look over a stretch of the journal came to. */
const journalCheckSchema = z.object({
  /** Up to which entry was looked, and the newest. */
  cursor: z.int(),
  latest: z.int(),
  /** Entries that tell how somebody agreed to get mail. */
  receipts: z.int(),
  /** The first entry that is not as it was written; null for none. */
  broken: z.object({ n: z.int(), at: z.string() }).nullable(),
  /** The mark at `cursor`, as it was written. */
  mark: z.string(),
})
export type JournalCheck = z.infer<typeof journalCheckSchema>

/** People of a list as they are stored, each by a digest of all that is kept. */
const memberDigestsSchema = z.object({
  members: z.array(z.object({ id: memberIdSchema, revision: z.int(), digest: z.string() })),
  /** After which the next ones come; null for the last. */
  next: z.int().nullable(),
})

/** An object's content as its kind has it, read by the registry; null for one that was taken away. */
const bodySchema = z.unknown() as z.ZodType<Body | null>
const objectsPageSchema = z.object({
  objects: z.array(
    z.object({
      ...{ kind: z.enum(kinds), key: z.string(), revision: z.int(), body: bodySchema },
      /** Id of the key that it was changed with last, and when, in milliseconds since 1970. */
      ...{ by: z.string().optional(), changedAt: z.int().optional() },
    }),
  ),
  ...stretch,
})
const kind = z.string() as unknown as z.ZodType<Kind>
const objectsReadSchema = objectsPageSchema.extend({
  objects: z.array(objectsPageSchema.shape.objects.element.extend({ kind })),
})

const problem = <Problem extends { code: string; message: string }>() =>
  z.object({ code: z.string(), message: z.string() }) as unknown as z.ZodType<Problem>

const id = z.string() as unknown as z.ZodType<CommandId>
/** What became of a command. `n` is the journal entry that carried it out. */
const commandOutcomeSchema = z.union([
  z.object({ id, ok: z.literal(true), n: z.int() }),
  z.object({ id, ok: z.literal(false), problem: problem<Refusal>() }),
])
export type CommandOutcome = z.infer<typeof commandOutcomeSchema>

const about = { kind: z.enum(kinds), key: z.string() }
/** What became of a change to what the owner makes. */
const changeOutcomeSchema = z.union([
  z.object({ ...about, ok: z.literal(true), revision: z.int() }),
  z.object({ ...about, ok: z.literal(false), conflict: z.object({ revision: z.int(), body: bodySchema }) }),
  z.object({ ...about, ok: z.literal(false), problem: problem<ChangeRefusal>() }),
])
export type ChangeOutcome = z.infer<typeof changeOutcomeSchema>

const refilledSchema = z.object({ latest: z.int() })
const recoveredSchema = z.object({ latest: z.int(), taken: z.int(), left: z.int() })

const wholeNumber = (description: string) =>
  z.coerce.number().int().min(0).catch(0).meta({ type: 'integer', minimum: 0, description })
const cursorQuery = z.object({
  after: wholeNumber('The cursor: the last number already known; 0 for all.'),
  mark: z.string().optional().meta({
    description: 'The mark that came with the cursor. 409 when this history has another one there.',
  }),
  limit: wholeNumber('At most this many.'),
})

/** Read one by one by its handler, so that one that cannot be read is refused by itself. */
const readLater = (component: string) => z.unknown().meta({ allOf: [{ $ref: `#/components/schemas/${component}` }] })

export const historyRoutes = {
  readJournal: route({
    method: 'get',
    path: '/journal',
    needs: 'see',
    summary: 'Journal entries after a cursor, oldest first, at most 5000.',
    query: cursorQuery,
    answer: entriesPageSchema,
    read: entriesReadSchema,
    refusals: CONTRADICTS,
  }),
  readObjects: route({
    method: 'get',
    path: '/objects',
    needs: 'see',
    summary:
      'What the owner makes (sites, lists, forms with drafts, versions, spots, themes, pictures without their bytes), as far as it changed after a cursor. A null body was taken away.',
    query: cursorQuery,
    answer: objectsPageSchema,
    read: objectsReadSchema,
    refusals: CONTRADICTS,
  }),
  followNews: route({
    method: 'get',
    path: '/stream',
    needs: 'see',
    summary: 'One line of JSON at each news, an empty object as a sign of life. Stays open.',
    answer: newsSchema,
    type: 'application/x-ndjson',
  }),
  carryOutCommands: route({
    method: 'post',
    path: '/commands',
    needs: 'edit',
    summary:
      'Carries out changes to people, each at most once however often it is sent, each with an outcome of its own.',
    body: z.strictObject({ commands: z.array(readLater('Command')).max(1000) }),
    answer: z.object({ outcomes: z.array(commandOutcomeSchema) }),
  }),
  takeChanges: route({
    method: 'post',
    path: '/changes',
    needs: 'edit',
    summary:
      'Takes in changes to what the owner makes, each with an outcome of its own: the new revision, the conflict with what somebody else changed, or what is wrong with it. A version never changes. With `together`, all are taken or none is: the outcome of each that was not taken says why, and those of the others do not hold.',
    body: z.strictObject({ changes: z.array(readLater('Change')).max(200), together: z.boolean().optional() }),
    answer: z.object({ outcomes: z.array(changeOutcomeSchema) }),
  }),
  checkJournal: route({
    method: 'get',
    path: '/journal/check',
    needs: 'see',
    summary:
      'Whether entries after a number are as they were written, some thousands at a time: marks are computed anew over them.',
    query: z.object({ after: wholeNumber('The last number that was checked; 0 for the beginning.') }),
    answer: journalCheckSchema,
  }),
  readDigests: route({
    method: 'get',
    path: '/lists/{list}/digests',
    needs: 'see-people',
    summary:
      'What is kept of the people of a list, each by a digest, some thousands at a time: held against what the journal makes of them, a row that was changed shows.',
    params: z.object({ list: listIdSchema }),
    query: z.object({ after: wholeNumber('What the page before gave as next; 0 for the beginning.') }),
    answer: memberDigestsSchema,
  }),
  refill: route({
    method: 'post',
    path: '/refill',
    needs: 'own',
    summary:
      'Continues an empty or partly refilled journal from a copy of it. 409 where the numbers do not follow, or where an entry cannot.',
    body: z.strictObject({ journal: journalIdSchema, entries: z.array(entrySchema).max(5000) }),
    answer: refilledSchema,
    refusals: CONTRADICTS,
  }),
  recover: route({
    method: 'post',
    path: '/recover',
    needs: 'own',
    summary:
      'Takes in again, under new numbers, what a copy of the journal has after the last entry that both have in common.',
    body: z.strictObject({ common: z.int().min(0), entries: z.array(entrySchema).max(5000) }),
    answer: recoveredSchema,
  }),
}

import { z } from 'zod'
import { type CommandId, journalIdSchema, memberIdSchema } from '#core/ids'
import { entrySchema } from '#core/journal'
import type { Refusal } from '#core/list'
import { type Body, type ChangeRefusal, kinds } from '#core/sync'

/** Numbers of the newest entry and of the newest change to what the owner makes. */
export interface News {
  latest: number
  latestChange: number
}
/** A line of the stream of news; one without numbers only shows that it lives. */
export const newsSchema = z.object({ latest: z.int().optional(), latestChange: z.int().optional() })

/** Of a stretch of one of the receiver's two orders: the cursor and mark from which to go on. */
const stretch = { journal: journalIdSchema, cursor: z.int(), mark: z.string(), latest: z.int() }

export const entriesPageSchema = z.object({ entries: z.array(entrySchema), ...stretch })
export type EntriesPage = z.infer<typeof entriesPageSchema>

/** What a look over a stretch of the journal came to. */
export const journalCheckSchema = z.object({
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
export const memberDigestsSchema = z.object({
  members: z.array(z.object({ id: memberIdSchema, revision: z.int(), digest: z.string() })),
  /** After which the next ones come; null for the last. */
  next: z.int().nullable(),
})
export type MemberDigests = z.infer<typeof memberDigestsSchema>

/** An object's content as its kind has it, read by the registry; null for one that was taken away. */
const bodySchema = z.unknown() as z.ZodType<Body | null>
export const objectsPageSchema = z.object({
  objects: z.array(z.object({ kind: z.enum(kinds), key: z.string(), revision: z.int(), body: bodySchema })),
  ...stretch,
})
export type ObjectsPage = z.infer<typeof objectsPageSchema>

const problem = <Problem extends { code: string; message: string }>() =>
  z.object({ code: z.string(), message: z.string() }) as unknown as z.ZodType<Problem>

const id = z.string() as unknown as z.ZodType<CommandId>
/** What became of a command. `n` is the journal entry that carried it out. */
export const commandOutcomeSchema = z.union([
  z.object({ id, ok: z.literal(true), n: z.int() }),
  z.object({ id, ok: z.literal(false), problem: problem<Refusal>() }),
])
export type CommandOutcome = z.infer<typeof commandOutcomeSchema>

const about = { kind: z.enum(kinds), key: z.string() }
/** What became of a change to what the owner makes. */
export const changeOutcomeSchema = z.union([
  z.object({ ...about, ok: z.literal(true), revision: z.int() }),
  z.object({ ...about, ok: z.literal(false), conflict: z.object({ revision: z.int(), body: bodySchema }) }),
  z.object({ ...about, ok: z.literal(false), problem: problem<ChangeRefusal>() }),
])
export type ChangeOutcome = z.infer<typeof changeOutcomeSchema>

export const refilledSchema = z.object({ latest: z.int() })
export const recoveredSchema = z.object({ latest: z.int(), taken: z.int(), left: z.int() })

import { z } from 'zod'
import { batchIdSchema, listIdSchema, memberIdSchema } from '#core/ids'
import { columnValue, harmlessText, plainLine } from '#core/text'
import { columnKeySchema, memberValues, tagSchema, tagsSchema } from './values'

/** One change that many people get alike. */
export const memberChangeSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('tag'), tag: tagSchema }),
  z.strictObject({ kind: z.literal('untag'), tag: tagSchema }),
  /** An empty value takes it away. */
  z.strictObject({ kind: z.literal('set'), column: columnKeySchema, value: columnValue }),
  z.strictObject({ kind: z.literal('remove') }),
  z.strictObject({ kind: z.literal('restore'), status: z.enum(['waiting', 'confirmed', 'left', 'bounced']) }),
  /** As if they had never been brought in: of an import that is undone. */
  z.strictObject({ kind: z.literal('withdraw') }),
])
export type MemberChange = z.infer<typeof memberChangeSchema>

/** What a batch is for, as it stands in the history of its list. */
export const batchPurposeSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('import'),
    /** The file's name, or what stands for one. */
    from: plainLine,
    /** How these people agreed to get mail, in the owner's words: part of the receipt of each of them. */
    consent: harmlessText.min(1),
    /** Whether each who has to confirm gets the mail for it. Without it, nobody gets any. */
    asksByMail: z.boolean().optional(),
  }),
  z.strictObject({ kind: z.literal('copy'), from: listIdSchema }),
  z.strictObject({ kind: z.literal('change'), change: memberChangeSchema }),
  z.strictObject({ kind: z.literal('undo'), of: batchIdSchema }),
  z.strictObject({ kind: z.literal('erase') }),
])
export type BatchPurpose = z.infer<typeof batchPurposeSchema>

/** Many people of one list changed as one: staged at the receiver in chunks, then applied whole. */
export const batchSchema = z.strictObject({ id: batchIdSchema, list: listIdSchema, purpose: batchPurposeSchema })
export type Batch = z.infer<typeof batchSchema>

/** Statuses that somebody can be brought in with. */
export const broughtStatuses = ['confirmed', 'waiting', 'left', 'removed', 'bounced'] as const

/** What somebody is to be, whole. */
export const personRowSchema = z.strictObject({
  member: memberIdSchema,
  /** The revision that this was decided on; null for somebody new. */
  revision: z.int().min(1).nullable(),
  email: harmlessText,
  values: memberValues,
  tags: tagsSchema,
  status: z.enum(broughtStatuses),
  /** Null for the moment at which it is applied. */
  joinedAt: z.iso.datetime().nullable(),
})
export type PersonRow = z.infer<typeof personRowSchema>

/** As many people as a chunk may hold whole: some 100 KB. */
export const MAX_CHUNK = 500
/** As many as it may name, to change them alike: some 200 KB. */
export const MOST_CHANGED = 4_000

/** A part of a batch, applied after those before it. */
export const chunkSchema = z.union([
  z.strictObject({
    change: memberChangeSchema,
    /** With a revision, only who still is as the owner saw them. */
    members: z.array(z.strictObject({ id: memberIdSchema, revision: z.int().min(1).nullable() })).max(MOST_CHANGED),
  }),
  z.strictObject({ people: z.array(personRowSchema).max(MAX_CHUNK) }),
  z.strictObject({ erase: z.array(memberIdSchema).max(MAX_CHUNK) }),
])
export type Chunk = z.infer<typeof chunkSchema>

/** Why somebody was left as they are. */
export const passedOverReasons = [
  'changed-since',
  'gone',
  'there-already',
  'erased-before',
  /** They left, were taken off, or take no mail: they stay off. */
  'off-the-list',
  /** They would have been confirmed by it, who have yet to confirm. */
  'yet-to-confirm',
  'invalid',
] as const
export type PassedOverReason = (typeof passedOverReasons)[number]

export const batchCountsSchema = z.strictObject({
  done: z.int(),
  /** They were so already. */
  same: z.int(),
  passedOver: z.int(),
})
export type BatchCounts = z.infer<typeof batchCountsSchema>

/** As many are named of those who were passed over. */
export const MOST_NAMED = 200

export const passedOverSchema = z.strictObject({ member: memberIdSchema, reason: z.enum(passedOverReasons) })
export type PassedOver = z.infer<typeof passedOverSchema>

/** Addresses that are asked about at once. */
export const MOST_ASKED = 2_000

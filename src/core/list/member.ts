import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js'
import { z } from 'zod'
import { batchIdSchema, formIdSchema, listIdSchema, memberIdSchema, spotIdSchema } from '#core/ids'
import { canonicalJson } from '#core/json'
import { cameFromSchema } from '#core/journal'

export const memberStatuses = ['waiting', 'confirmed', 'left', 'removed', 'bounced'] as const
export type MemberStatus = (typeof memberStatuses)[number]

/** One person on one list, as the journal up to `revision` says. */
export const memberSchema = z.strictObject({
  id: memberIdSchema,
  list: listIdSchema,
  email: z.strictObject({ typed: z.string(), compared: z.string() }),
  /** By column key, the address left out. */
  values: z.record(z.string(), z.string()),
  /** What the person asked to hear about; missing is none. */
  tags: z.array(z.string()).optional(),
  status: z.enum(memberStatuses),
  joinedAt: z.iso.datetime(),
  /** Where the person signed up; null for someone the owner added by hand. */
  from: z
    .strictObject({
      form: formIdSchema,
      version: z.int(),
      spot: spotIdSchema,
      page: z.string(),
      cameFrom: cameFromSchema.optional(),
      /** Time zone of the browser, where it was told. */
      zone: z.string().optional(),
    })
    .nullable(),
  /** By key of the field: what was answered that no column keeps, for answers that pass it on; missing for nothing. */
  passed: z.record(z.string(), z.string()).optional(),
  /** Which batch brought them, where they came from no form. */
  batch: batchIdSchema.optional(),
  /** Number of the newest journal entry about this member. A command names the revision it was made on. */
  revision: z.int(),
})
export type Member = z.infer<typeof memberSchema>

/** What a column keeps of somebody. Keys of columns are the owner's to choose, `constructor` too. */
export function valueOf({ values }: Pick<Member, 'values'>, column: string): string {
  return Object.hasOwn(values, column) ? (values[column] ?? '') : ''
}

/** What somebody is, in 16 hexadecimal digits: the same wherever the journal was folded. SHA-256 of the canonical JSON, its beginning. */
export function memberDigest(member: Member): string {
  return bytesToHex(sha256(utf8ToBytes(canonicalJson(member)))).slice(0, 16)
}

export function noCounts(): Record<MemberStatus, number> {
  return Object.fromEntries(memberStatuses.map((status) => [status, 0])) as Record<MemberStatus, number>
}

import { z } from 'zod'
import { addressesIn } from '#core/privacy'
import { feedIdSchema, letterIdSchema, sendingIdSchema, seriesIdSchema } from '#core/ids'
import { type LetterContent, letterContentSchema } from './letter'
import { letterTimeSchema } from './when'

/**
 * - `asks`: it waits for its owner's yes.
 * - `planned`: its time has not come; nobody is settled yet.
 * - `settling`: its readers are being put down.
 * - `going`: it goes, to each at their moment.
 * - `stopped`: by its owner, or by itself because of refusals.
 */
export const sendingStates = ['asks', 'planned', 'settling', 'going', 'stopped', 'done', 'cancelled'] as const
export type SendingState = (typeof sendingStates)[number]

/**
 * What became of one reader's copy. `waiting` for its turn, `queued` among the mails that go next; `dropped` was for
 * somebody who was not on the list any more at their moment.
 */
export const copyStates = ['waiting', 'queued', 'sent', 'refused', 'bounced', 'dropped'] as const
export type CopyState = (typeof copyStates)[number]

/** What a sending was made of. */
export const sendingSourceSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('letter'), id: letterIdSchema }),
  z.strictObject({ kind: z.literal('feed'), id: feedIdSchema }),
  z.strictObject({ kind: z.literal('series'), id: seriesIdSchema, step: z.string().max(32) }),
])
export type SendingSource = z.infer<typeof sendingSourceSchema>

export const sendingCountsSchema = z.object({
  ...(Object.fromEntries(copyStates.map((state) => [state, z.int()])) as Record<CopyState, z.ZodInt>),
  /** Of those who got it: who left by its link, and whose complaint was reported. */
  left: z.int(),
  complained: z.int(),
})
export type SendingCounts = z.infer<typeof sendingCountsSchema>

/** One going out of a letter. Times in milliseconds since 1970. */
export const sendingSchema = z.object({
  id: sendingIdSchema,
  source: sendingSourceSchema,
  content: letterContentSchema,
  when: letterTimeSchema,
  state: z.enum(sendingStates),
  createdAt: z.int(),
  /** When its first copy may go. */
  startsAt: z.int(),
  /** When its last copy went; null until then. */
  endedAt: z.int().nullable(),
  /** How often its words were mended while it went. */
  mended: z.int(),
  /** Why it stopped, or what it waits for. */
  said: addressesIn(z.string()),
  counts: sendingCountsSchema,
})
export type Sending = z.infer<typeof sendingSchema>

export const noCopies = (): SendingCounts => ({
  ...(Object.fromEntries(copyStates.map((state) => [state, 0])) as Record<CopyState, number>),
  ...{ left: 0, complained: 0 },
})

/** How many refusals among the last hundred end a sending by themselves, and of how many they are counted. */
export const MOST_REFUSED = 5
export const REFUSED_AMONG = 100

/** Of the newest copies that came to their end, whether too many were refused to go on. */
export function isRefusedTooOften(newest: readonly CopyState[]): boolean {
  const last = newest.slice(0, REFUSED_AMONG)
  return last.filter((state) => state === 'refused' || state === 'bounced').length > MOST_REFUSED
}

/** The words of a sending for whoever has no copy of their own: what is typed, without anybody's name. */
export function titleOf({ subject }: Pick<LetterContent, 'subject'>, listName: string): string {
  const words = subject
    .flatMap((block) => (block.kind === 'paragraph' ? block.spans : block.items.flat()))
    .map(({ text, placeholder }) => (placeholder === 'list' ? listName : text))
    .join('')
    .replaceAll(/\s+/g, ' ')
    .trim()
  return words || listName
}

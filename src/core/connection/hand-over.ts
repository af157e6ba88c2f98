import { z } from 'zod'
import { connectionIdSchema, handOverIdSchema, listIdSchema } from '#core/ids'
import { type Member, valueOf } from '#core/list'
import { plainLine } from '#core/text'

/** How a list is carried on by a connection: into which of its lists, with what, and from when. */
export const handOverSchema = z.strictObject({
  id: handOverIdSchema,
  list: listIdSchema,
  connection: connectionIdSchema,
  /** Of a keyed service, its list as it was called when it was chosen; null for other ways. */
  target: z.strictObject({ id: z.string().min(1).max(200), name: plainLine }).nullable(),
  /** Which of our columns fills which of its fields. */
  fields: z
    .array(z.strictObject({ column: z.string().min(1).max(60), key: z.string().min(1).max(200), name: plainLine }))
    .max(200),
  sendsTags: z.boolean(),
  /** When somebody goes there. */
  moment: z.enum(['joined', 'confirmed']),
  /** Whether the service sends a mail of its own to confirm. */
  confirmsThere: z.boolean(),
  isPaused: z.boolean(),
  createdAt: z.iso.datetime(),
})
export type HandOver = z.infer<typeof handOverSchema>

/** What somebody is to be at the other end. */
export type WantedState =
  | { state: 'there'; email: string; values: Record<string, string>; tags: string[] | null }
  | { state: 'off'; email: string }
  | { state: 'not-yet' }

/** Somebody erased is to be gone there as well, but only the address can tell who it was: that is told apart. */
export function wantedOf(
  member: Pick<Member, 'email' | 'values' | 'tags' | 'status'>,
  handOver: HandOver,
): WantedState {
  const email = member.email.typed
  if (member.status === 'waiting' && handOver.moment === 'confirmed') return { state: 'not-yet' }
  if (member.status !== 'confirmed' && member.status !== 'waiting') return { state: 'off', email }
  return {
    state: 'there',
    email,
    values: valuesFor(member, handOver),
    tags: handOver.sendsTags ? [...(member.tags ?? [])].sort() : null,
  }
}

/** By the service's keys. What is empty here is left out: it is not known, rather than known to be empty. */
function valuesFor(member: Pick<Member, 'email' | 'values'>, { fields }: HandOver): Record<string, string> {
  return Object.fromEntries(
    fields
      .map(({ column, key }) => [key, column === 'email' ? member.email.typed : valueOf(member, column)] as const)
      .filter(([, value]) => value !== ''),
  )
}

/** Names what somebody is to be, so that the same need not be handed over twice. */
export function textOfWanted(wanted: WantedState): string {
  if (wanted.state !== 'there') return wanted.state === 'off' ? `off ${wanted.email}` : 'not-yet'
  const values = Object.entries(wanted.values).sort(([one], [other]) => (one < other ? -1 : 1))
  return JSON.stringify([wanted.email, values, wanted.tags])
}

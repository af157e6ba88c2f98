import { z } from 'zod'
import { commandIdSchema, listIdSchema, memberIdSchema } from '#core/ids'
import { harmlessText } from '#core/text'
import { memberValues, tagsSchema } from './values'

const shared = { id: commandIdSchema, list: listIdSchema, member: memberIdSchema }
/** The revision of the member that the owner saw when deciding. */
const revision = z.int().min(1)

/**
 * A change to people that the owner wants. Made in the workshop, queued while offline, and carried out at
 * most once however often it is sent: its id is remembered with its outcome.
 */
export const commandSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    ...shared,
    kind: z.literal('add-member'),
    email: harmlessText,
    values: memberValues,
    /** How they agreed to get mail, in the owner's words. */
    consent: harmlessText.min(1).optional(),
  }),
  /** Tags that are left out stay as they are. */
  z.strictObject({
    ...shared,
    kind: z.literal('edit-member'),
    revision,
    email: harmlessText,
    values: memberValues,
    tags: tagsSchema.optional(),
  }),
  z.strictObject({ ...shared, kind: z.literal('note-member'), text: harmlessText.min(1) }),
  z.strictObject({ ...shared, kind: z.literal('remove-member'), revision }),
  z.strictObject({
    ...shared,
    kind: z.literal('restore-member'),
    revision,
    status: z.enum(['waiting', 'confirmed', 'left', 'bounced']),
  }),
])
export type Command = z.infer<typeof commandSchema>

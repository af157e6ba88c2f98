import { z } from 'zod'
import { formIdSchema, listIdSchema, themeIdSchema } from '#core/ids'
import { lookSchema } from '#core/look'
import { plainLine } from '#core/text'
import { formContentSchema, sameContent } from './content'

/** A form as its owner works on it. It cannot exist without the list it feeds. */
export const formSchema = z.strictObject({
  id: formIdSchema,
  name: plainLine,
  list: listIdSchema,
  /** The look it shares with other forms; null for one of its own. */
  theme: themeIdSchema.nullable(),
  /** Put away: kept and still taking sign-ups, but off the Desk. */
  isArchived: z.boolean(),
  draft: formContentSchema,
  createdAt: z.iso.datetime(),
})
export type Form = z.infer<typeof formSchema>

/** A published state of a form. Immutable: code on pages and receipts refer to it by number for ever. */
export const versionSchema = z.strictObject({
  form: formIdSchema,
  number: z.int().min(1),
  list: listIdSchema,
  content: formContentSchema,
  publishedAt: z.iso.datetime(),
  /** Made to be tried beside others: shown only where a trial says so, and never what the form is by itself. */
  isTried: z.literal(true).optional(),
})
export type Version = z.infer<typeof versionSchema>

/** Whether a version is what the form is now: its content, and the list it feeds. */
export function isPublishedAs(
  { draft, list }: Pick<Form, 'draft' | 'list'>,
  version: Version | null,
): version is Version {
  return version !== null && version.list === list && sameContent(version.content, draft)
}

/** A look under a name, shared by forms. */
export const themeSchema = z.strictObject({ id: themeIdSchema, name: plainLine, look: lookSchema })
export type Theme = z.infer<typeof themeSchema>

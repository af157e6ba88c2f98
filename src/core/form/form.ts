import { z } from 'zod'
import { formIdSchema, listIdSchema } from '#core/ids'
import { plainLine } from '#core/text'
import { formContentSchema } from './content'

/** A form as its owner works on it. It cannot exist without the list it feeds. */
export const formSchema = z.strictObject({
  id: formIdSchema,
  name: plainLine,
  list: listIdSchema,
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
})
export type Version = z.infer<typeof versionSchema>

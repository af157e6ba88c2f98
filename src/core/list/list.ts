import { z } from 'zod'
import { listIdSchema, type ListId } from '#core/ids'
import { harmlessText, plainLine } from '#core/text'

export const columnSchema = z.strictObject({ key: z.string().regex(/^[a-z][a-z0-9-]{0,39}$/), label: plainLine })
export type Column = z.infer<typeof columnSchema>

/** A mailing list: what it keeps of its members, and why they get its messages. */
export const listSchema = z.strictObject({
  id: listIdSchema,
  name: plainLine,
  /** Stands in every message, because people forget that they joined. */
  why: harmlessText,
  /** Besides the email address, which every list has. */
  columns: z.array(columnSchema),
  createdAt: z.iso.datetime(),
})
export type List = z.infer<typeof listSchema>

export function startList(id: ListId, name: string, createdAt: string): List {
  return {
    id,
    name,
    why: `You get this because you signed up for “${name}”.`,
    columns: [{ key: 'first-name', label: 'First name' }],
    createdAt,
  }
}

/** The list's columns as a table shows them, the address first. */
export function columnsOf(list: List): Column[] {
  return [{ key: 'email', label: 'Email' }, ...list.columns]
}

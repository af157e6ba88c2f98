import { z } from 'zod'
import { listIdSchema, type ListId } from '#core/ids'
import { columnKeySchema } from '#core/journal'
import { harmlessText, plainLine } from '#core/text'
import { savedFilterSchema } from './filter'

/** What a column holds: it decides how it is edited, and what an import takes for mistyped. */
export const columnKinds = ['text', 'number', 'date', 'choice', 'yes-no', 'country', 'web-address'] as const
export type ColumnKind = (typeof columnKinds)[number]

export const columnSchema = z.strictObject({
  key: columnKeySchema,
  label: plainLine,
  /** Missing is text. */
  kind: z.enum(columnKinds).optional(),
  /** What a choice offers. */
  choices: z.array(plainLine).max(200).optional(),
  /** Kept, and not shown in the table. */
  isHidden: z.boolean().optional(),
})
export type Column = z.infer<typeof columnSchema>

/** How a list's table is laid out, by the keys of its columns. Missing ones stand where they always do. */
export const tableLayoutSchema = z.strictObject({
  /** In CSS pixels. */
  widths: z.record(z.string(), z.int().min(60).max(1200)),
  hidden: z.array(z.string().max(60)).max(600),
  order: z.array(z.string().max(60)).max(600),
})
export type TableLayout = z.infer<typeof tableLayoutSchema>

const keptDays = z.int().min(1).max(3650)

/** A mailing list: what it keeps of its members, and why they get its messages. */
export const listSchema = z.strictObject({
  id: listIdSchema,
  name: plainLine,
  /** Stands in every message, because people forget that they joined. */
  why: harmlessText,
  /** Besides the email address, which every list has. */
  columns: z.array(columnSchema),
  createdAt: z.iso.datetime(),
  isArchived: z.boolean().optional(),
  /** When its owner deleted it. The journal and old code name it still, so it stays, out of sight. */
  deletedAt: z.iso.datetime().optional(),
  /** Filters under a name. */
  filters: z.array(savedFilterSchema).max(100).optional(),
  table: tableLayoutSchema.optional(),
  /** After how many days those who left, or never came, are erased by themselves; missing is never. */
  keeping: z.strictObject({ leftDays: keptDays.optional(), expiredDays: keptDays.optional() }).optional(),
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

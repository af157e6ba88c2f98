import { z } from 'zod'
import { journalIdSchema } from '#core/ids'
import { commandSchema, entrySchema } from '#core/journal'
import { giftPieceSchema } from '#core/mail'
import { type Kind, kindOf, kinds, type Preferences, preferencesSchema, type Stored, type Table } from '#core/sync'

export const WORKSPACE_FORMAT = 'askbox-workspace'
/** Raised whenever a file of the older version needs a migration to be read. */
export const WORKSPACE_VERSION = 3

/** Kinds of objects with a part of their own; the properties of others stand in the file by themselves. */
type PartKind = Exclude<Kind, 'preferences'>
export type ObjectPart = Table<PartKind>
export const partKinds = kinds.filter((kind): kind is PartKind => kindOf(kind).isSpreadInFile !== true)
export const partOf = (kind: PartKind) => kindOf(kind).table as ObjectPart
/** The lists of a file, by their path in it, in the order in which they are written. */
export type WorkspacePart = ObjectPart | 'giftPieces' | 'journal.entries' | 'commands'
export const workspaceParts: readonly WorkspacePart[] = [
  ...partKinds.map(partOf),
  'giftPieces',
  'journal.entries',
  'commands',
]
export const storedSchema = (kind: Kind) => kindOf(kind).stored?.schema ?? kindOf(kind).schema

type ObjectLists = { [One in PartKind as Table<One>]: Stored[One][] }
type ObjectListSchemas = { [One in PartKind as Table<One>]: z.ZodDefault<z.ZodArray<z.ZodType<Stored[One]>>> }

/** Missing in files from before there was such a kind. */
const objectLists = Object.fromEntries(
  partKinds.map((kind) => [partOf(kind), z.array(storedSchema(kind)).default([])]),
) as unknown as ObjectListSchemas

/** Everything a workshop holds: the content of an exported file. See docs/workspace-file.md. */
export const workspaceSchema = z.strictObject({
  format: z.literal(WORKSPACE_FORMAT),
  version: z.literal(WORKSPACE_VERSION),
  exportedAt: z.iso.datetime(),
  ...objectLists,
  /** The bytes of gifts, in pieces. Missing in files from before they were kept there. */
  giftPieces: z.array(giftPieceSchema).default([]),
  ...preferencesSchema.partial().shape,
  /** The keys of links in mails, sealed with a passphrase; missing where the owner gave none. */
  linkKeys: z.string().min(1).max(200_000).optional(),
  /** The key of links as files of before held it, in base64url: read, and never written. */
  linkKey: z
    .string()
    .regex(/^[\w-]{43}$/)
    .optional(),
  /** What happened to people, in order. `id` names this history; null before the first pairing. */
  journal: z.strictObject({ id: journalIdSchema.nullable(), entries: z.array(entrySchema) }),
  /** Changes to people that the receiver has not answered yet. */
  commands: z.array(commandSchema),
})
export type Workspace = Omit<z.infer<typeof workspaceSchema>, ObjectPart> & ObjectLists

export function emptyWorkspace(exportedAt: string): Workspace {
  return {
    format: WORKSPACE_FORMAT,
    version: WORKSPACE_VERSION,
    exportedAt,
    ...(Object.fromEntries(partKinds.map((kind) => [partOf(kind), []])) as unknown as ObjectLists),
    giftPieces: [],
    journal: { id: null, entries: [] },
    commands: [],
  }
}

/** The names of the preferences, which stand in a file by themselves. */
export const preferenceNames = Object.keys(preferencesSchema.shape) as (keyof Preferences)[]

/** What the owner chose, as an object; null where nothing was. */
export function preferencesIn(facts: Partial<Record<keyof Preferences, unknown>>): Preferences | null {
  const named = preferenceNames.filter((name) => facts[name] !== undefined)
  if (named.length === 0) return null
  return preferencesSchema.parse({ videoHosts: [], ...Object.fromEntries(named.map((name) => [name, facts[name]])) })
}

import { z } from 'zod'
import { formSchema, themeSchema, versionSchema } from '#core/form'
import { journalIdSchema } from '#core/ids'
import { commandSchema, entrySchema } from '#core/journal'
import { listSchema } from '#core/list'
import { giftPieceSchema, mailSchema } from '#core/mail'
import { pictureSchema } from '#core/picture'
import { proofSchema } from '#core/proof'
import { siteSchema } from '#core/site'
import { spotSchema } from '#core/spot'

export const WORKSPACE_FORMAT = 'askbox-workspace'
/** Raised whenever a file of the older version needs a migration to be read. */
export const WORKSPACE_VERSION = 2

/** Everything a workshop holds: the content of an exported file. See docs/workspace-file.md. */
export const workspaceSchema = z.strictObject({
  format: z.literal(WORKSPACE_FORMAT),
  version: z.literal(WORKSPACE_VERSION),
  exportedAt: z.iso.datetime(),
  sites: z.array(siteSchema),
  lists: z.array(listSchema),
  /** The lists' mail. Missing in files from before there was any. */
  mails: z.array(mailSchema).default([]),
  forms: z.array(formSchema),
  versions: z.array(versionSchema),
  spots: z.array(spotSchema),
  /** Looks that forms share. */
  themes: z.array(themeSchema),
  pictures: z.array(pictureSchema),
  /** The bytes of gifts, in pieces. Missing in files from before they were kept there. */
  giftPieces: z.array(giftPieceSchema).default([]),
  /** How rehearsals went. Missing in files from before there were any. */
  proofs: z.array(proofSchema).default([]),
  /** Hosts whose videos the owner lets onto forms. Missing in files from before it was kept there. */
  videoHosts: z.array(z.string().max(255)).max(200).optional(),
  /** How often the receiver rehearses by itself; missing is never. */
  rehearseEvery: z.enum(['day', 'week']).optional(),
  /** What links in mails are signed with; missing before the first mail. */
  linkKey: z
    .string()
    .regex(/^[\w-]{43}$/)
    .optional(),
  /** What happened to people, in order. `id` names this history; null before the first pairing. */
  journal: z.strictObject({ id: journalIdSchema.nullable(), entries: z.array(entrySchema) }),
  /** Changes to people that the receiver has not answered yet. */
  commands: z.array(commandSchema),
})
export type Workspace = z.infer<typeof workspaceSchema>

export function emptyWorkspace(exportedAt: string): Workspace {
  return {
    format: WORKSPACE_FORMAT,
    version: WORKSPACE_VERSION,
    exportedAt,
    sites: [],
    lists: [],
    mails: [],
    forms: [],
    versions: [],
    spots: [],
    themes: [],
    pictures: [],
    giftPieces: [],
    proofs: [],
    journal: { id: null, entries: [] },
    commands: [],
  }
}

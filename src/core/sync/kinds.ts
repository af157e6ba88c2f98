import { z } from 'zod'
import { type Form, formSchema, picturesIn, type Theme, themeSchema, type Version, versionSchema } from '#core/form'
import { type List, listSchema } from '#core/list'
import { type Mail, mailProblems, mailSchema } from '#core/mail'
import { type PictureFacts, pictureFactsSchema } from '#core/picture'
import { type Proof, proofSchema } from '#core/proof'
import { type Site, siteSchema } from '#core/site'
import { type Spot, spotSchema } from '#core/spot'

/** What the owner chose for the workshop as a whole, whichever browser it is opened in. */
export const preferencesSchema = z.strictObject({
  /** Hosts whose videos the owner lets onto forms. */
  videoHosts: z.array(z.string().max(255)).max(200),
  /** How often the receiver rehearses every spot by itself; missing is never. */
  rehearseEvery: z.enum(['day', 'week']).optional(),
  /** What links in mails are signed with, in base64url; made by the receiver. It goes wherever the history goes. */
  linkKey: z
    .string()
    .regex(/^[\w-]{43}$/)
    .optional(),
})
export type Preferences = z.infer<typeof preferencesSchema>

/** Everything that the owner makes, by kind. */
export interface Bodies {
  preferences: Preferences
  site: Site
  list: List
  mail: Mail
  theme: Theme
  picture: PictureFacts
  form: Form
  version: Version
  spot: Spot
  proof: Proof
}
export type Kind = keyof Bodies
export type Body = Bodies[Kind]

/** In the order in which they refer to each other: what comes first is there before it is needed. */
export const kinds = [
  'preferences',
  'site',
  'list',
  'mail',
  'theme',
  'picture',
  'form',
  'version',
  'spot',
  'proof',
] as const satisfies readonly Kind[]

export const bodySchemas: { [One in Kind]: z.ZodType<Bodies[One]> } = {
  preferences: preferencesSchema,
  site: siteSchema,
  list: listSchema,
  // Nothing that stops publishing is ever sent to anybody, whoever sends the change.
  mail: mailSchema.refine(
    ({ published }) => published === null || !mailProblems(published).some(({ stops }) => stops),
    'cannot be published as it is',
  ),
  theme: themeSchema,
  picture: pictureFactsSchema,
  form: formSchema,
  version: versionSchema,
  spot: spotSchema,
  proof: proofSchema,
}

/**
 * What never changes once it is made. Versions and pictures are never taken away either: receipts and code on pages refer
 * to them for ever. Of proofs, each side keeps the newest.
 */
export function isImmutable(kind: Kind): boolean {
  return kind === 'version' || kind === 'picture' || kind === 'proof'
}

/** What one object is found by among those of its kind. */
export function keyOf(kind: Kind, body: Body): string {
  if (kind === 'preferences') return 'workshop'
  if (kind === 'mail') return (body as Mail).list
  if (kind !== 'version') return (body as Exclude<Body, Preferences | Version | Mail>).id
  const { form, number } = body as Version
  return `${form}/${number}`
}

/** What an object needs to be there, each with the name of the part that refers to it. */
export function referencesOf(kind: Kind, body: Body): { part: string; kind: Kind; key: string }[] {
  const pictures = (of: Form['draft'], part: string) =>
    picturesIn(of).map((key) => ({ part, kind: 'picture' as const, key }))
  switch (kind) {
    case 'form': {
      const { list, theme, draft } = body as Form
      return [
        { part: 'list', kind: 'list', key: list },
        ...(theme === null ? [] : [{ part: 'theme', kind: 'theme' as const, key: theme }]),
        ...pictures(draft, 'draft'),
      ]
    }
    case 'mail':
      return [{ part: 'list', kind: 'list', key: (body as Mail).list }]
    case 'version': {
      const { form, list, content } = body as Version
      return [
        { part: 'form', kind: 'form', key: form },
        { part: 'list', kind: 'list', key: list },
        ...pictures(content, 'content'),
      ]
    }
    case 'spot': {
      const { form, site } = body as Spot
      return [
        { part: 'form', kind: 'form', key: form },
        { part: 'site', kind: 'site', key: site },
      ]
    }
    default:
      return []
  }
}

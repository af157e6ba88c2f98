import { z } from 'zod'

/** What the site is built with: it decides where code goes and in which words that is explained. */
export const siteKindSchema = z.enum([
  'self-hosted-blog',
  'block-editor-blog',
  'builder-with-head',
  'builder-without-code',
  'static-pages',
  'other',
])
export type SiteKind = z.infer<typeof siteKindSchema>

/** What a site's builder permits of code that is pasted into it. Common practice among builders, no published source. */
export const siteProfileSchema = z.strictObject({
  /** Whether there is a place for code in the head of every page, and in that of a single one. */
  siteHead: z.boolean(),
  pageHead: z.boolean(),
  /** Whether these survive pasting into a page. */
  keepsForms: z.boolean(),
  keepsStyles: z.boolean(),
  keepsStyleAttributes: z.boolean(),
  keepsScripts: z.boolean(),
  keepsFrames: z.boolean(),
  /** Whether its visual editor damages code that is pasted among the words, so that it has to go into a place for HTML. */
  visualEditorDamages: z.boolean(),
  /** What the editor shows where a form will be. */
  whileEditing: z.enum(['form', 'code', 'notice']),
  /** How long its cache may show the page as it was, in minutes; 0 without one. */
  cacheMinutes: z.int().min(0).max(10_000),
})
export type SiteProfile = z.infer<typeof siteProfileSchema>

const keepsAll: SiteProfile = {
  siteHead: true,
  pageHead: true,
  keepsForms: true,
  keepsStyles: true,
  keepsStyleAttributes: true,
  keepsScripts: true,
  keepsFrames: true,
  visualEditorDamages: false,
  whileEditing: 'form',
  cacheMinutes: 0,
}

export const siteProfiles: Record<SiteKind, SiteProfile> = {
  'self-hosted-blog': { ...keepsAll, pageHead: false, visualEditorDamages: true },
  'block-editor-blog': { ...keepsAll, pageHead: false, whileEditing: 'code' },
  'builder-with-head': { ...keepsAll, whileEditing: 'notice', cacheMinutes: 10 },
  'builder-without-code': {
    ...keepsAll,
    siteHead: false,
    pageHead: false,
    keepsForms: false,
    keepsStyles: false,
    keepsStyleAttributes: false,
    keepsScripts: false,
    keepsFrames: false,
    cacheMinutes: 10,
  },
  'static-pages': { ...keepsAll, whileEditing: 'code' },
  other: keepsAll,
}

/** What holds for one site. */
export function profileOf({ kind, profile }: { kind: SiteKind; profile?: SiteProfile | undefined }): SiteProfile {
  return profile ?? siteProfiles[kind]
}

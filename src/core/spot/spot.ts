import { z } from 'zod'
import { formIdSchema, siteIdSchema, spotIdSchema } from '#core/ids'
import { harmlessText, plainLine } from '#core/text'
import { placingSchema } from '#core/rule'
import { popUpSchema } from './pop-up'

export const spotKindSchema = z.enum(['inline', 'after-post', 'sidebar', 'footer', 'landing', 'pop-up'])
export type SpotKind = z.infer<typeof spotKindSchema>

/**
 * What is pasted at a spot: the form itself with its styles, the same with them in its tags, a link that the script on
 * the site makes the form of, a frame that shows it, or a link to its own page. A page of its own can be a file, too. By a
 * rule nothing is pasted: the shared line puts it there.
 */
export const codeKindSchema = z.enum(['plain', 'in-tags', 'script', 'frame', 'link', 'file', 'rule'])
export type CodeKind = z.infer<typeof codeKindSchema>

/** `widths` are those at which a form has to hold there, narrowest first, in CSS pixels: 280 is a side column, 320 a small phone. */
export const spotKinds: readonly { kind: SpotKind; name: string; explanation: string; widths: readonly number[] }[] = [
  {
    kind: 'inline',
    name: 'Inline',
    explanation: 'In the text of a page, as wide as the text column.',
    widths: [320, 360, 680],
  },
  {
    kind: 'after-post',
    name: 'After the post',
    explanation: 'Below the text of every post, where readers come to the end.',
    widths: [320, 360, 680],
  },
  { kind: 'sidebar', name: 'Sidebar', explanation: 'In the narrow column beside the text.', widths: [280, 360] },
  { kind: 'footer', name: 'Footer', explanation: 'Below everything, across the page.', widths: [320, 360, 1100] },
  {
    kind: 'landing',
    name: 'Landing page',
    explanation: 'A page of its own, with an address to link to.',
    widths: [320, 360, 1280],
  },
  {
    kind: 'pop-up',
    name: 'Pop-up',
    explanation: 'Over the page, when you say; visitors close it by one press.',
    widths: [300, 360, 520],
  },
]

/** Short words with hyphens between them, as addresses are read aloud. */
export const slugSchema = z
  .string()
  .max(60)
  .regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/, 'must be small letters, digits and single hyphens')

/** One place on one site where one form sits. */
export const spotSchema = z.strictObject({
  id: spotIdSchema,
  form: formIdSchema,
  site: siteIdSchema,
  kind: spotKindSchema,
  /** The site that it is meant for, while it is tried on a pretend one; missing when it is where it belongs. */
  meant: siteIdSchema.optional(),
  /** The page's full address where known, else empty. Browsers often tell the receiver only the site, so this completes it. */
  page: harmlessText,
  /** The owner's choice of code; missing is what works best there. */
  code: codeKindSchema.optional(),
  /** Of a pop-up: where, when, how often and on which pages it appears; missing is `startPopUp`. */
  popUp: popUpSchema.optional(),
  /** Where on which pages the shared line puts it, for `code: 'rule'`; missing is `startRule`, not published. */
  placing: placingSchema.optional(),
  /** The readable end of its page's address; missing is the spot's id. */
  slug: slugSchema.optional(),
  /** What every sign-up from here is marked with, in the owner's words. */
  source: z.string().max(100).pipe(plainLine).optional(),
  /** Paused is closed for a while, retired for good; either way the code on the page may stay. */
  state: z.enum(['live', 'paused', 'retired']),
  /** When that was changed last; missing where it never was. */
  stateAt: z.iso.datetime().optional(),
  createdAt: z.iso.datetime(),
})
export type Spot = z.infer<typeof spotSchema>

/** Named after where it will be used, because there will soon be several: "Volunteers’ blog, inline: Members’ letter". */
export function suggestFormName(site: string, kind: SpotKind, purpose: string): string {
  if (site.trim() === '' && purpose.trim() === '') return ''
  const place = spotKinds.find((one) => one.kind === kind)?.name.toLowerCase() ?? kind
  return [[site.trim(), place].filter(Boolean).join(', '), purpose.trim()].filter(Boolean).join(': ')
}

/** A spot as its owner knows it: "Volunteers’ blog, inline". */
export function spotName(
  { site, kind }: Pick<Spot, 'site' | 'kind'>,
  sites: readonly { id: string; name: string }[],
): string {
  const place = spotKinds.find((one) => one.kind === kind)?.name.toLowerCase() ?? kind
  return `${sites.find(({ id }) => id === site)?.name ?? 'a deleted site'}, ${place}`
}

/** Whether the script puts the form there by rules, with nothing for it at its place in the page. */
export const isBroughtByScript = ({ kind, code }: Pick<Spot, 'kind' | 'code'>): boolean =>
  kind === 'pop-up' || code === 'rule'

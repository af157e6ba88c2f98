import { z } from 'zod'
import { pagesSchema } from './pages'
import { selectorProblem } from './selector'

const selectorSchema = z
  .string()
  .max(300)
  .superRefine((text, context) => {
    const problem = selectorProblem(text)
    if (problem !== null) context.addIssue({ code: 'custom', message: problem })
  })
const numberSchema = z.int().min(1).max(50)

/** Where on a page a rule puts a form. */
export const placeSchema = z.discriminatedUnion('kind', [
  /** Before or after an element, or inside it at its end. */
  z.strictObject({
    kind: z.literal('selector'),
    at: z.enum(['before', 'after', 'inside']),
    selector: selectorSchema,
  }),
  /** After the paragraph or heading of that number in the text of the page; of headings, below the page’s title. */
  z.strictObject({ kind: z.literal('text'), of: z.enum(['paragraph', 'heading']), number: numberSchema }),
  /** After the entry of that number on a page that lists many; with `times: 'each'`, after every one. */
  z.strictObject({ kind: z.literal('entry'), number: numberSchema }),
  /** At the end of the text, on pages with one post. */
  z.strictObject({ kind: z.literal('post-end') }),
  z.strictObject({ kind: z.literal('foot'), at: z.enum(['above', 'below']) }),
  /** Over the page, fixed to the lower edge of the window. */
  z.strictObject({ kind: z.literal('edge') }),
])
export type Place = z.infer<typeof placeSchema>

/** Where on which pages, and to whom, a form is shown by the shared line. */
export const ruleSchema = z.strictObject({
  place: placeSchema,
  /** How often on one page: at the first place that is found, or at each. */
  times: z.enum(['once', 'each']),
  pages: pagesSchema,
  /** Marks in a page’s own markup, by selectors: one of `has` is there (where any is named), and none of `lacks`. */
  marks: z.strictObject({ has: z.array(selectorSchema).max(10), lacks: z.array(selectorSchema).max(10) }),
  who: z.strictObject({
    /** What the site sets on pages of its members or of who is signed in, as a selector; empty for nothing. */
    members: z.union([z.literal(''), selectorSchema]),
    /** Whether somebody who joined in this browser is asked again; those whom the form greets are greeted. */
    joined: z.enum(['asked', 'not-asked']),
    /** Words of which the page’s address has one in its campaign; none for everybody. */
    campaigns: z.array(z.string().trim().min(1).max(60)).max(20),
    /** Whether somebody comes from another page of the site. */
    from: z.enum(['anywhere', 'own', 'elsewhere']),
  }),
})
export type Rule = z.infer<typeof ruleSchema>

/** What the shared line is given of a rule. */
export interface PublishedRule extends Rule {
  spot: string
  /** Path of its site, with a slash at the end: pages below it are the site’s. */
  under: string
  /** Paths of other sites of the owner’s that lie below it; missing for none. */
  apart?: readonly string[]
}

/** A rule as it is worked on, and as visitors meet it; null while they do not. */
export const placingSchema = z.strictObject({ draft: ruleSchema, published: ruleSchema.nullable() })
export type Placing = z.infer<typeof placingSchema>

/** Below each post: what owners ask for most (common practice, no published source). */
export const startRule: Rule = {
  place: { kind: 'post-end' },
  times: 'once',
  pages: { which: 'all', patterns: [] },
  marks: { has: [], lacks: [] },
  who: { members: '', joined: 'not-asked', campaigns: [], from: 'anywhere' },
}

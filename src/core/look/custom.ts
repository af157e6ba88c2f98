import { z } from 'zod'

/**
 * One rule of an owner's own CSS in the only shape that is ever kept and rendered. Values hold nothing that
 * could end a declaration, load an address, name a file or close the style element; selectors hold nothing
 * that could leave the form, because the renderer puts the form's scope before each of them.
 */
const selector = z
  .string()
  .regex(/^[a-zA-Z0-9_.#:()[\]="'*+>~\s-]{1,300}$/, 'holds a character that selectors here may not have')
  // A sibling of the form would be outside it.
  .refine((text) => !/^\s*([+~]|(form|:scope)[^\s>+~]*\s*[+~])/.test(text), 'must stay within the form')
const declarationSchema = z.strictObject({
  property: z.string().regex(/^-{0,2}[a-z][a-z0-9-]{0,60}$/),
  value: z
    .string()
    .min(1)
    .max(500)
    .regex(/^[^<>{};\\@]*$/, 'holds a character that values here may not have')
    .refine((value) => !/url\s*\(|image\s*\(|image-set\s*\(|expression\s*\(|javascript:|element\s*\(/i.test(value), 'must not load or run anything')
    .refine((value) => !/\b(fixed|sticky)\b/i.test(value), 'must not leave its place on the page'),
})

export const customRuleSchema = z.strictObject({
  /** Width of the page from or up to which it holds, in CSS pixels; null for always. */
  media: z.strictObject({ from: z.int().min(0).max(5_000).nullable(), upTo: z.int().min(0).max(5_000).nullable() }).nullable(),
  selectors: z.array(selector).min(1).max(50),
  declarations: z.array(declarationSchema).max(100),
})
export type CustomRule = z.infer<typeof customRuleSchema>

import { z } from 'zod'
import { readSelector } from './selector'

/**
 * One rule of an owner's own CSS in the only shape that is ever kept and rendered. Values hold nothing that
 * could end a declaration, load an address, name a file or close the style element. Whether a rule stays within the
 * form is judged by `withinForm`, on reading and on rendering: files from before it was so strict still open.
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
    .refine(
      (value) => !/url\s*\(|image\s*\(|image-set\s*\(|expression\s*\(|javascript:|element\s*\(/i.test(value),
      'must not load or run anything',
    )
    .refine((value) => !/\b(fixed|sticky)\b/i.test(value), 'must not leave its place on the page'),
})

export const customRuleSchema = z.strictObject({
  /** Width of the page from or up to which it holds, in CSS pixels; null for always. */
  media: z
    .strictObject({ from: z.int().min(0).max(5_000).nullable(), upTo: z.int().min(0).max(5_000).nullable() })
    .nullable(),
  selectors: z.array(selector).min(1).max(50),
  declarations: z.array(declarationSchema).max(100),
})
export type CustomRule = z.infer<typeof customRuleSchema>

/** What would take the form itself to another place on the page. */
const MOVES = /^(position|inset(-.+)?|top|right|bottom|left|transform|translate|rotate|scale|float|z-index)$/
const isNegativeMargin = (property: string, value: string) => property.startsWith('margin') && /(^|[\s(,])-/.test(value)

/**
 * The rule with what stays within the form: selectors of a known structure, and nothing that moves the form itself.
 * Null when nothing is left.
 */
export function withinForm(rule: CustomRule): CustomRule | null {
  const readings = rule.selectors.flatMap((selector) => {
    const reading = readSelector(selector)
    return reading === null ? [] : [{ selector, ...reading }]
  })
  const isOfFormItself = readings.some(({ isForm }) => isForm)
  const declarations = isOfFormItself
    ? rule.declarations.filter(({ property, value }) => !MOVES.test(property) && !isNegativeMargin(property, value))
    : rule.declarations
  if (readings.length === 0 || declarations.length === 0) return null
  return { media: rule.media, selectors: readings.map(({ selector }) => selector), declarations }
}

/** Whether a rule takes boxes from where they stand, so that the form has to hold them in. */
export function movesBoxes({ declarations }: CustomRule): boolean {
  return declarations.some(({ property, value }) => MOVES.test(property) || isNegativeMargin(property, value))
}

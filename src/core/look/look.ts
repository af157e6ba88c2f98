import { z } from 'zod'
import { harmlessText } from '#core/text'
import { isDark, mix } from './colour'
import { customRuleSchema } from './custom'
import { fontKeys } from './fonts'

/** `#rrggbb` and nothing else, so a colour can never carry other CSS with it. */
export const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/, 'must be a colour such as #2a2236')

const px = (least: number, most: number) => z.int().min(least).max(most)
const control = { corner: px(0, 40), size: z.enum(['small', 'medium', 'large']) }

/** Tokens of how a form looks. Lengths in CSS pixels of a page whose text is 16 px; they grow with the page's text. */
export const lookSchema = z.strictObject({
  /** Fields under each other, or in one line with the button where there is room. */
  arrangement: z.enum(['stacked', 'line']),
  align: z.enum(['start', 'center', 'end']),
  colours: z.strictObject({
    background: colourSchema,
    text: colourSchema,
    button: colourSchema,
    buttonText: colourSchema,
    /** Inside of fields; null for one that goes with the background. */
    field: colourSchema.nullable(),
    /** Edge of fields; null for one that goes with the text. */
    edge: colourSchema.nullable(),
  }),
  ground: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('colour') }),
    z.strictObject({ kind: z.literal('none') }),
    /** From the background colour to this one; `angle` in degrees as in CSS. */
    z.strictObject({ kind: z.literal('gradient'), to: colourSchema, angle: px(0, 360) }),
  ]),
  /** Where the form's picture stands, if it has one. `strength` in percent, for one that stands behind. */
  picture: z.strictObject({ place: z.enum(['above', 'start', 'end', 'behind']), strength: px(5, 100) }),
  type: z.strictObject({
    font: z.enum(fontKeys),
    /** Percent of the page's text size. */
    size: px(75, 150),
    /** Percent of the form's text size. */
    headingSize: px(100, 300),
    weight: z.enum(['400', '500', '600', '700']),
    headingWeight: z.enum(['400', '500', '600', '700', '800']),
  }),
  space: z.strictObject({ inside: px(0, 80), gap: px(2, 40), outside: px(0, 96), width: px(240, 1280) }),
  border: z.strictObject({ width: px(0, 8), colour: colourSchema, corner: px(0, 40) }),
  shadow: z.enum(['none', 'soft', 'lifted']),
  field: z.strictObject({ ...control, shape: z.enum(['box', 'line']) }),
  button: z.strictObject({ ...control, fill: z.enum(['full', 'outline']), width: z.enum(['text', 'row']) }),
  /** How the answer in place of the form stands out. */
  result: z.enum(['plain', 'framed', 'barred']),
  entrance: z.enum(['none', 'fade', 'rise']),
  /** `typed` is for the owner, `rules` is what is left of it after the sanitizer, and all that is ever rendered. */
  custom: z.strictObject({ typed: harmlessText, rules: z.array(customRuleSchema).max(500) }),
})
export type Look = z.infer<typeof lookSchema>

/** Reads well on any light page until the owner chooses otherwise. */
export const plainLook: Look = {
  arrangement: 'line',
  align: 'start',
  colours: {
    background: '#f4f1ea',
    text: '#2b2b33',
    button: '#2f5d50',
    buttonText: '#ffffff',
    field: null,
    edge: null,
  },
  ground: { kind: 'colour' },
  picture: { place: 'above', strength: 30 },
  type: { font: 'site', size: 100, headingSize: 140, weight: '400', headingWeight: '700' },
  space: { inside: 24, gap: 12, outside: 24, width: 720 },
  border: { width: 0, colour: '#2b2b33', corner: 6 },
  shadow: 'none',
  field: { corner: 4, size: 'medium', shape: 'box' },
  button: { corner: 4, size: 'medium', fill: 'full', width: 'text' },
  result: 'plain',
  entrance: 'none',
  custom: { typed: '', rules: [] },
}

/** What fields are filled and edged with: the owner's choice, or what goes with the rest. */
export function fieldColours({ colours, ground }: Pick<Look, 'colours' | 'ground'>): { field: string; edge: string } {
  const isOnDark = ground.kind === 'none' ? !isDark(colours.text) : isDark(colours.background)
  const under = ground.kind === 'none' ? (isOnDark ? '#000000' : '#ffffff') : colours.background
  const field = colours.field ?? (isOnDark ? mix('#000000', under, 0.25) : '#ffffff')
  return { field, edge: colours.edge ?? mix(colours.text, field, 0.6) }
}

import { z } from 'zod'
import { harmlessText } from '#core/text'
import { isDark, mix } from './colour'
import { customRuleSchema } from './custom'
import { fontKeys } from './fonts'

/** `#rrggbb` and nothing else, so a colour can never carry other CSS with it. */
export const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/, 'must be a colour such as #2a2236')

/** Names of fonts with commas between them, and nothing else: no other CSS, and no address. */
const familySchema = z.string().regex(/^[\w\s,"'-]{1,200}$/, 'must be names of fonts')

const px = (least: number, most: number) => z.int().min(least).max(most)
/** Texts that can have a size and a colour of their own. */
export const lookTextKeys = ['introduction', 'points', 'note', 'label', 'small', 'quote', 'after'] as const
export type LookTextKey = (typeof lookTextKeys)[number]

/** Sizes of texts while none is chosen, in percent of the form's text size. */
export const usualTextSize: Record<LookTextKey, number> = {
  introduction: 100,
  points: 100,
  note: 100,
  label: 90,
  small: 85,
  quote: 100,
  after: 100,
}

const alignment = z.enum(['start', 'center', 'end'])
const control = { corner: px(0, 40), size: z.enum(['small', 'medium', 'large']) }

/**
 * Tokens of how a form looks. Lengths in CSS pixels of a page whose text is 16 px; they grow with the page's text.
 * One that is left out goes with the rest.
 */
export const lookSchema = z.strictObject({
  /** Fields under each other, or in one line with the button where there is room. */
  arrangement: z.enum(['stacked', 'line']),
  align: alignment,
  /** Words beside the fields where there is room. A landing page has an arrangement of its own. */
  words: z.literal('beside').optional(),
  colours: z.strictObject({
    background: colourSchema,
    text: colourSchema,
    button: colourSchema,
    buttonText: colourSchema,
    /** Inside of fields; null for one that goes with the background. */
    field: colourSchema.nullable(),
    /** Edge of fields; null for one that goes with the text. */
    edge: colourSchema.nullable(),
    heading: colourSchema.optional(),
    ...(Object.fromEntries(lookTextKeys.map((key) => [key, colourSchema.optional()])) as Record<
      LookTextKey,
      z.ZodOptional<typeof colourSchema>
    >),
    /** What visitors type. */
    fieldText: colourSchema.optional(),
    /** The button under the pointer. */
    buttonHover: colourSchema.optional(),
  }),
  ground: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('colour') }),
    /** Words of `page` are in the colour that the page around gives them; missing is their own. */
    z.strictObject({ kind: z.literal('none'), text: z.literal('page').optional() }),
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
    headingAlign: alignment.optional(),
    /** The site's own `font-family` of headings, where it is another than that of its text. */
    headingFamily: familySchema.optional(),
    /** Percent of the form's text size. */
    sizes: z.partialRecord(z.enum(lookTextKeys), px(70, 200)).optional(),
  }),
  space: z.strictObject({
    inside: px(0, 80),
    gap: px(2, 40),
    outside: px(0, 96),
    above: px(0, 96).optional(),
    below: px(0, 96).optional(),
    width: px(240, 1280),
  }),
  border: z.strictObject({ width: px(0, 8), colour: colourSchema, corner: px(0, 40) }),
  shadow: z.enum(['none', 'soft', 'lifted']),
  field: z.strictObject({ ...control, shape: z.enum(['box', 'line']) }),
  button: z.strictObject({
    ...control,
    fill: z.enum(['full', 'outline']),
    width: z.enum(['text', 'row']),
    weight: z.enum(['400', '500', '600', '700', '800']).optional(),
  }),
  /** Whose styles it wears: its own, or wholly those that the site has for forms. Missing is its own. */
  dress: z.enum(['own', 'site']).optional(),
  /** How the answer in place of the form stands out. */
  result: z.enum(['plain', 'framed', 'barred']),
  entrance: z.enum(['none', 'fade', 'rise']),
  /** `typed` is for the owner, `rules` is what is left of it after the sanitizer, and all that is ever rendered. */
  custom: z.strictObject({ typed: harmlessText, rules: z.array(customRuleSchema).max(500) }),
})
export type Look = z.infer<typeof lookSchema>

/** Whether words, fields and edges follow the page around, light or dark. */
export function followsPage({ ground }: Pick<Look, 'ground'>): boolean {
  return ground.kind === 'none' && ground.text === 'page'
}

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

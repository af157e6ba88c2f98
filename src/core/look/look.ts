import { z } from 'zod'

/** `#rrggbb` and nothing else, so a colour can never carry other CSS with it. */
const colour = z.string().regex(/^#[0-9a-f]{6}$/, 'must be a colour such as #2a2236')

/** Tokens of how a form looks. */
export const lookSchema = z.strictObject({
  colours: z.strictObject({
    background: colour,
    text: colour,
    button: colour,
    buttonText: colour,
  }),
})
export type Look = z.infer<typeof lookSchema>

/** Reads well on any light page until the owner chooses colours. */
export const plainLook: Look = {
  colours: { background: '#f4f1ea', text: '#2b2b33', button: '#2f5d50', buttonText: '#ffffff' },
}

import { z } from 'zod'
import { type Look, lookSchema } from './look'

const { field, button, type } = lookSchema.shape

/** How a site does things besides its colours: what its forms should do alike. What was not found is left out. */
export const mannerSchema = z.strictObject({
  headingWeight: type.shape.headingWeight.optional(),
  headingFamily: type.shape.headingFamily,
  fieldCorner: field.shape.corner.optional(),
  buttonCorner: button.shape.corner.optional(),
  buttonFill: button.shape.fill.optional(),
  /** Of fields and buttons, as roomy as the site's. */
  size: button.shape.size.optional(),
})
export type Manner = z.infer<typeof mannerSchema>

/** A card's corner in the manner of a button's: none stays none, and no card is a pill. CSS pixels. */
const MOST_CARD_CORNER = 16
const cardCorner = (button: number) => (button === 0 ? 0 : Math.min(MOST_CARD_CORNER, Math.round(button * 1.5)))

/** A look that goes with the site: its headings, corners, buttons and room. Buttons that are outlined by design stay so. */
export function inManner(look: Look, manner: Manner | undefined): Look {
  if (manner === undefined) return look
  const { headingWeight, headingFamily, fieldCorner, buttonCorner, buttonFill, size } = manner
  // Where the site has no fields to learn from, they go with its buttons: a pill beside a box is no pair.
  const corner = fieldCorner ?? buttonCorner
  const isLarge = look.button.size === 'large'
  return {
    ...look,
    type: {
      ...look.type,
      ...(headingWeight !== undefined && { headingWeight }),
      ...(headingFamily !== undefined && { headingFamily }),
    },
    field: { ...look.field, ...(corner !== undefined && { corner }), ...(size !== undefined && !isLarge && { size }) },
    button: {
      ...look.button,
      ...(buttonCorner !== undefined && { corner: buttonCorner }),
      ...(buttonFill === 'outline' && { fill: buttonFill }),
      ...(size !== undefined && !isLarge && { size }),
    },
    border: { ...look.border, ...(buttonCorner !== undefined && { corner: cardCorner(buttonCorner) }) },
  }
}

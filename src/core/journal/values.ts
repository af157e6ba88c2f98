import { z } from 'zod'
import { columnValue, harmlessText } from '#core/text'

/** One tag. As long as a form's topics may be: somebody may have those. */
export const tagSchema = harmlessText.refine((tag) => tag.trim() !== '', 'must not be empty')
export const tagsSchema = z.array(tagSchema).max(500)

export const columnKeySchema = z.string().regex(/^[a-z][a-z0-9-]{0,39}$/)
/** By column key, the address left out. */
export const memberValues = z.record(columnKeySchema, columnValue)

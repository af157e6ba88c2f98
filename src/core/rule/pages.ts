import { z } from 'zod'
import { pathPatternProblem } from './pattern-problem'

/** Pages of a site, by patterns for their paths. */
export const pagesSchema = z.strictObject({
  which: z.enum(['all', 'only', 'but']),
  patterns: z
    .array(
      z
        .string()
        .max(200)
        .refine((pattern) => pathPatternProblem(pattern) === null, 'must be a path such as /posts/*'),
    )
    .max(50),
})
export type ChosenPages = z.infer<typeof pagesSchema>

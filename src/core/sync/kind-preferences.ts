import { z } from 'zod'
import { objectKind } from './kind'

/** What the owner chose for the workshop as a whole, whichever browser it is opened in. */
export const preferencesSchema = z.strictObject({
  /** Hosts whose videos the owner lets onto forms. */
  videoHosts: z.array(z.string().max(255)).max(200),
  /** How often the receiver rehearses every spot by itself; missing is never. */
  rehearseEvery: z.enum(['day', 'week']).optional(),
})
export type Preferences = z.infer<typeof preferencesSchema>

const KEY = 'workshop'

export const preferences = objectKind({
  table: 'preferences',
  schema: preferencesSchema,
  naming: { keyOf: () => KEY, keyPath: '', primaryKeyOf: () => KEY },
  isSpreadInFile: true,
  merge(base, here, there) {
    // Of two choices, the one made here.
    const rehearseEvery = here.rehearseEvery === base?.rehearseEvery ? there.rehearseEvery : here.rehearseEvery
    return {
      // Hosts that either side let in are let in: there is nothing to decide.
      videoHosts: [...new Set([...here.videoHosts, ...there.videoHosts])],
      ...(rehearseEvery !== undefined && { rehearseEvery }),
    }
  },
})

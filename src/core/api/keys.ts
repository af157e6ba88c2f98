import { z } from 'zod'
import { plainLine } from '#core/text'

/** A key of a browser or a program; times in milliseconds since 1970. */
export const ownersKeySchema = z.object({
  id: z.string(),
  name: z.string(),
  madeAt: z.int(),
  usedAt: z.int(),
  /** Whether it is the one that asked. */
  isThis: z.boolean(),
})
export type OwnersKey = z.infer<typeof ownersKeySchema>

/** What a browser brings from the address that was printed. */
export const pairSchema = z.strictObject({
  code: z.string().min(16).max(200),
  /** What its owner will know it by. */
  name: plainLine.max(60),
})
export const exchangeSchema = z.object({ key: z.string(), id: z.string() })
export type Exchange = z.infer<typeof exchangeSchema>

/** An address that pairs one browser. */
export const pairingAddressSchema = z.object({ address: z.string(), until: z.int() })
export type PairingAddress = z.infer<typeof pairingAddressSchema>

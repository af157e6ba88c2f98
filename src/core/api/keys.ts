import { z } from 'zod'
import { plainLine } from '#core/text'
import { rights } from './right'
import { route } from './route'

/** A key of a browser or a program; times in milliseconds since 1970. */
const ownersKeySchema = z.object({
  id: z.string(),
  name: z.string(),
  right: z.enum(rights),
  /** Whether its holder sees names, addresses and what else people told. */
  seesPeople: z.boolean(),
  madeAt: z.int(),
  usedAt: z.int(),
  /** When it was withdrawn; null for one that works. */
  withdrawnAt: z.int().nullable(),
  /** Whether it is the one that asked. */
  isThis: z.boolean(),
})
export type OwnersKey = z.infer<typeof ownersKeySchema>

/** What a browser brings from the address that was printed. */
const pairSchema = z.strictObject({
  code: z.string().min(16).max(200),
  /** What its owner will know it by. */
  name: plainLine.max(60),
})
export const exchangeSchema = z.object({ key: z.string(), id: z.string() })

/** Whom a key is for, and what it allows. */
const grantSchema = z.strictObject({
  /** What its owner will know it by; empty for what the browser calls itself. */
  name: z.union([z.literal(''), plainLine.max(60)]),
  right: z.enum(rights),
  seesPeople: z.boolean(),
})
export type KeyGrant = z.infer<typeof grantSchema>
export type Exchange = z.infer<typeof exchangeSchema>

/** An address that pairs one browser. */
const pairingAddressSchema = z.object({ address: z.string(), until: z.int() })
export type PairingAddress = z.infer<typeof pairingAddressSchema>

/** An address that pairs a browser and was not used yet; without what opens. Times in milliseconds since 1970. */
const openAddressSchema = z.object({
  id: z.string(),
  name: z.string(),
  right: z.enum(rights),
  seesPeople: z.boolean(),
  madeAt: z.int(),
  until: z.int(),
  /** The name of the key that it was made with; null for the address that a start prints. */
  by: z.string().nullable(),
})
export type OpenAddress = z.infer<typeof openAddressSchema>

const keys = z.object({ keys: z.array(ownersKeySchema), addresses: z.array(openAddressSchema).default([]) })

export const keysRoutes = {
  pair: route({
    method: 'post',
    path: '/pair',
    summary: 'Exchanges a pairing code, which works once, for a key of the browser’s own. Needs no key.',
    needs: 'nothing',
    body: pairSchema,
    answer: exchangeSchema,
    refusals: {
      404: 'No such code, or one that has ended.',
      410: 'The code was used before.',
      429: 'Too many requests from one place.',
    },
  }),
  readKeys: route({
    method: 'get',
    path: '/keys',
    needs: 'edit',
    summary:
      'Browsers and programs that have a key of their own or had one, and addresses that still pair one; without what opens.',
    answer: keys,
  }),
  withdrawKey: route({
    method: 'post',
    path: '/keys/{id}/withdraw',
    needs: 'own',
    summary: 'Withdraws a key: whoever has it is out from the next request on.',
    params: z.object({ id: z.string().regex(/^[a-z0-9]{4,32}$/) }),
    answer: keys,
  }),
  shutAddress: route({
    method: 'post',
    path: '/keys/addresses/{id}/shut',
    needs: 'own',
    summary: 'Shuts an address that pairs a browser and was not used yet.',
    params: z.object({ id: z.string().regex(/^[\w-]{20,60}$/) }),
    answer: keys,
  }),
  newPairingAddress: route({
    method: 'post',
    path: '/keys/pairing',
    needs: 'own',
    summary: 'A new address of the workshop that pairs one browser, with the right that is said.',
    body: grantSchema,
    answer: pairingAddressSchema,
  }),
}

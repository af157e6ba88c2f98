import { z } from 'zod'
import { connectionIdSchema } from '#core/ids'
import { plainLine } from '#core/text'
import { rights } from './right'
import { CONTRADICTS, route } from './route'

/** A key of a browser or a program; times in milliseconds since 1970. */
const ownersKeySchema = z.object({
  id: z.string(),
  name: z.string(),
  right: z.enum(rights),
  /** Whether its holder sees names, addresses and what else people told. */
  seesPeople: z.boolean(),
  madeAt: z.int(),
  usedAt: z.int(),
  /** When it ends by itself; null for never. */
  until: z.int().nullable().default(null),
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
  /** When the key ends by itself; null for never. */
  endsAt: z.int().nullable().default(null),
})
export type KeyGrant = z.input<typeof grantSchema>
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

/** What links in mails are marked with; the key itself is told to nobody. */
const linkKeySchema = z.object({
  madeAt: z.int(),
  /** The name of the key that it was made anew with; null where it was made by itself. */
  by: z.string().nullable(),
  /** When keys were made that are good for leaving alone, since somebody else may have them. */
  suspects: z.array(z.int()),
  /** Whether there are some that this receiver's secret does not open. */
  hasUnopened: z.boolean(),
})

/** An address that a service calls back, or a page of results; without what opens. */
const openingSchema = z.object({
  id: z.string(),
  name: z.string(),
  /** Null where nobody knows. */
  madeAt: z.int().nullable(),
  by: z.string().nullable(),
  /** Null for never, or before it was noted. */
  usedAt: z.int().nullable(),
  until: z.int().nullable(),
})
export type Opening = z.infer<typeof openingSchema>

/** Whatever opens the house: each of it can be shut. */
const keys = z.object({
  keys: z.array(ownersKeySchema),
  addresses: z.array(openAddressSchema).default([]),
  services: z.array(openingSchema).default([]),
  pages: z.array(openingSchema).default([]),
  links: linkKeySchema.nullable().default(null),
})
export type Openings = z.infer<typeof keys>

/** Long enough that it is not guessed from a file that was lost. */
export const passphrase = z.string().min(8).max(500)

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
  makeLinkKeyAnew: route({
    method: 'post',
    path: '/keys/links/anew',
    needs: 'own',
    summary: 'Makes the key of links in mails anew: what it marked until now is good for leaving alone.',
    answer: keys,
  }),
  saveLinkKeys: route({
    method: 'post',
    path: '/keys/links/save',
    needs: 'own',
    summary: 'The keys of links in mails, under a passphrase, for a file of the owner’s.',
    body: z.strictObject({ passphrase }),
    answer: z.object({ sealed: z.string() }),
  }),
  openLinkKeys: route({
    method: 'post',
    path: '/keys/links/open',
    needs: 'own',
    summary: 'Takes in keys of links that were saved under a passphrase, or the one of a file from before they were.',
    body: z.union([
      z.strictObject({ passphrase, sealed: z.string().max(200_000) }),
      z.strictObject({ plain: z.string().regex(/^[\w-]{43}$/) }),
    ]),
    answer: keys,
    refusals: CONTRADICTS,
  }),
  makeServiceAddressAnew: route({
    method: 'post',
    path: '/keys/services/{id}/anew',
    needs: 'own',
    summary: 'Makes the address anew that the service of a connection calls back: the one of before works no more.',
    params: z.object({ id: connectionIdSchema }),
    answer: keys,
    refusals: { 404: 'There is no such connection.' },
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

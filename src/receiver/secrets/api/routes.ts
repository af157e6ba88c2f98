import { createRoute, z } from '@hono/zod-openapi'
import { exchangeSchema, ownersKeySchema, pairingAddressSchema, pairSchema } from '#core/api'
import { answers, body, done, problem, readings } from '../../http/answers'

const keys = done(z.object({ keys: z.array(ownersKeySchema) }))

export const pair = createRoute({
  method: 'post',
  path: '/pair',
  summary: 'Exchanges a pairing code, which works once, for a key of the browser’s own. Needs no key.',
  security: [],
  request: body(pairSchema),
  responses: {
    ...readings,
    200: done(exchangeSchema),
    404: problem('No such code, or one that has ended.'),
    410: problem('The code was used before.'),
    429: problem('Too many requests from one place.'),
  },
})
export const readKeys = createRoute({
  method: 'get',
  path: '/keys',
  summary: 'Browsers and programs that have a key of their own, without the keys.',
  responses: { ...answers, 200: keys },
})
export const withdrawKey = createRoute({
  method: 'post',
  path: '/keys/{id}/withdraw',
  summary: 'Withdraws a key: whoever has it is out from the next request on.',
  request: { params: z.object({ id: z.string().regex(/^[a-z0-9]{4,32}$/) }) },
  responses: { ...answers, 200: keys },
})
export const newPairingAddress = createRoute({
  method: 'post',
  path: '/keys/pairing',
  summary: 'A new address of the workshop that pairs one browser.',
  responses: { ...answers, 200: done(pairingAddressSchema) },
})

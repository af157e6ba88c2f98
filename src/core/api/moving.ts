import { z } from 'zod'
import { addressesIn } from '#core/privacy'
import { CONTRADICTS, route } from './route'

/** Times in milliseconds since 1970, durations in milliseconds. */
const moveStateSchema = z.discriminatedUnion('state', [
  z.object({ state: z.literal('none') }),
  z.object({
    state: z.literal('moving'),
    at: z.int(),
    doing: z.enum(['copying', 'catching up', 'comparing', 'switching']),
    table: z.string(),
    rows: z.int(),
  }),
  /** `heldMs`: for how long writes were held up at the end. */
  z.object({ state: z.literal('moved'), at: z.int(), tookMs: z.int(), heldMs: z.int(), to: z.string() }),
  z.object({ state: z.literal('failed'), at: z.int(), said: addressesIn(z.string()) }),
])
export type MoveState = z.infer<typeof moveStateSchema>

export const movingRoutes = {
  readMove: route({
    method: 'get',
    path: '/move',
    needs: 'own',
    summary: 'How far the store is on its way to another engine.',
    answer: moveStateSchema,
  }),
  beginMove: route({
    method: 'post',
    path: '/move',
    needs: 'own',
    summary:
      'Copies the store into an empty one of the other kind while everything goes on, and goes on there: a database server by its address, or a data folder by its path.',
    body: z.strictObject({ to: z.string().min(1).max(2_000) }),
    answer: moveStateSchema,
    refusals: CONTRADICTS,
  }),
}

import { z } from 'zod'
import { formIdSchema } from '#core/ids'
import { plainLine } from '#core/text'
import { route } from './route'

/** A page of results for somebody else, such as a client, who has no key. */
const clientPageSchema = z.object({
  id: z.string(),
  /** What its owner knows it by; it is the page's heading. */
  name: z.string(),
  /** Those that it tells of; empty for all. */
  forms: z.array(formIdSchema),
  madeAt: z.int(),
  /** When it ends by itself; null for never. */
  until: z.int().nullable().default(null),
  address: z.string(),
})
export type ClientPage = z.infer<typeof clientPageSchema>

const wishSchema = z.strictObject({
  name: plainLine.max(80),
  forms: z.array(formIdSchema).max(200),
  until: z.int().nullable().default(null),
})
const pages = z.object({ pages: z.array(clientPageSchema) })

export const clientsRoutes = {
  readClientPages: route({
    method: 'get',
    path: '/clients',
    needs: 'edit',
    summary: 'Pages of results and lines for people without a key, with their addresses.',
    answer: pages,
  }),
  makeClientPage: route({
    method: 'post',
    path: '/clients',
    needs: 'edit',
    summary: 'Makes such a page: sums and stations of some forms or all, without names and addresses.',
    body: wishSchema,
    answer: pages,
  }),
  withdrawClientPage: route({
    method: 'post',
    path: '/clients/{id}/withdraw',
    needs: 'edit',
    summary: 'Withdraws such a page: its address leads nowhere from then on.',
    params: z.object({ id: z.string().regex(/^[a-z0-9]{4,32}$/) }),
    answer: pages,
  }),
}

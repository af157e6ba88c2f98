import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { fetchedPageSchema } from '#core/api'
import { answers, body, done, problem, readings } from '../../http/answers'

export const fetchOnePage = createRoute({
  method: 'post',
  path: '/page',
  summary:
    'Fetches a page of a site as a visitor’s browser gets it, to look for code in it. Nothing of a private network; at most 5 redirects, 5 s and 3 MB.',
  request: body(z.strictObject({ address: z.string().max(2000) })),
  responses: {
    ...answers,
    ...readings,
    502: problem('The page could not be fetched; `detail` says why.'),
    200: done(fetchedPageSchema),
  },
})

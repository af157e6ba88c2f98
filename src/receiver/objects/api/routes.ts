import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { pictureSchema } from '#core/picture'
import { answers, body, done, problem, readings, refused } from '../../http/answers'

const pictureId = z.object({ id: z.string() })

export const readPicture = createRoute({
  method: 'get',
  path: '/pictures/{id}',
  summary: 'A picture with its bytes.',
  request: { params: pictureId },
  responses: { ...answers, 404: problem('Its bytes were never sent here.'), 200: done(pictureSchema) },
})

export const keepPicture = createRoute({
  method: 'put',
  path: '/pictures/{id}',
  summary: 'Keeps a picture’s bytes. Its id is the beginning of their SHA-256.',
  request: { params: pictureId, ...body(pictureSchema) },
  responses: { ...answers, ...readings, ...refused, 200: done(z.object({ ok: z.literal(true) })) },
})

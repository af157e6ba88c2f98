import { z } from 'zod'
import { pictureSchema } from '#core/picture'
import { CONTRADICTS, route } from './route'

const pictureId = z.object({ id: z.string() })

export const picturesRoutes = {
  readPicture: route({
    method: 'get',
    path: '/pictures/{id}',
    needs: 'see',
    summary: 'A picture with its bytes.',
    params: pictureId,
    answer: pictureSchema,
    refusals: { 404: 'Its bytes were never sent here.' },
  }),
  keepPicture: route({
    method: 'put',
    path: '/pictures/{id}',
    needs: 'edit',
    summary: 'Keeps a picture’s bytes. Its id is the beginning of their SHA-256.',
    params: pictureId,
    body: pictureSchema,
    answer: z.object({ ok: z.literal(true) }),
    refusals: CONTRADICTS,
  }),
}

import { z } from 'zod'
import { route } from './route'

const id = z.object({ id: z.string() })
const bytes = z.unknown().meta({ type: 'string', format: 'binary' })
const type = 'application/octet-stream'

/** Gifts, by the SHA-256 of their bytes. */
export const filesRoutes = {
  keepFile: route({
    method: 'put',
    path: '/files/{id}',
    needs: 'edit',
    summary: 'Keeps a file of at most 25 MB, named after the SHA-256 of its bytes.',
    params: id,
    body: bytes,
    takes: type,
    answer: z.object({ size: z.int() }),
    refusals: { 413: 'More than 25 MB.', 507: 'There is no room for it.' },
  }),
  readFile: route({
    method: 'get',
    path: '/files/{id}',
    needs: 'see',
    summary: 'The bytes of a file; by HEAD whether it is here.',
    params: id,
    answer: bytes,
    type,
    refusals: { 404: 'Its bytes are not here.' },
  }),
}

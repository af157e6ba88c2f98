import { api } from '#core/api'
import type { OpenAPIHono } from '@hono/zod-openapi'
import type { Ledger } from '../../ledger'
import { conflict, refused } from '../../http/answers'
import { described } from '../../http/described'

const paths = described(api.pictures)

/** Pictures, by the hash of their bytes. */
export function pictureRoutes(routes: OpenAPIHono, ledger: Ledger): void {
  routes.openapi(paths.readPicture, async (c) => {
    const picture = await ledger.picture(c.req.valid('param').id)
    return picture === null
      ? refused(c, { status: 404, title: 'No such picture', detail: 'Its bytes were never sent here.' })
      : c.json(picture, 200)
  })

  routes.openapi(paths.keepPicture, async (c) => {
    const picture = c.req.valid('json')
    const result =
      picture.id === c.req.valid('param').id
        ? await ledger.keepPicture(picture)
        : ({ ok: false, code: 'wrong-id', message: 'The picture is named otherwise in its own content.' } as const)
    return result.ok ? c.json({ ok: true as const }, 200) : conflict(c, 'Not kept', result)
  })
}

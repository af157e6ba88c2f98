import { api } from '#core/api'
import { conflict } from '../http/answers'
import { described } from '../http/described'
import type { Subject } from '../subject'

const paths = described(api.moving)

/** The store moved to another engine while everything goes on. */
export const moving: Subject = {
  name: 'moving',
  tables: [],
  routes(routes, { mover }) {
    routes.openapi(paths.readMove, (c) => c.json(mover?.state() ?? { state: 'none' as const }, 200))
    routes.openapi(paths.beginMove, (c) => {
      const refused = mover === null ? 'This receiver cannot be moved.' : mover.begin(c.req.valid('json').to)
      return refused === null
        ? c.json(mover!.state(), 200)
        : conflict(c, 'Not moved', { code: 'not-moved', message: refused })
    })
  },
}

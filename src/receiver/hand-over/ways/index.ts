import type { Connection } from '#core/connection'
import { apiWay } from './api'
import { fileWay } from './file'
import { formPostWay } from './form-post'
import type { HandOverWay, WayOf, WayParts } from './way'
import { webhookWay } from './webhook'

type Kind = Connection['way']['kind']
const ways: { [One in Kind]: (connection: Connection, way: WayOf<One>, parts: WayParts) => HandOverWay } = {
  api: apiWay,
  'form-post': formPostWay,
  webhook: webhookWay,
  file: fileWay,
}

/** How a connection hands people over. */
export const wayOf = (connection: Connection, parts: WayParts): HandOverWay =>
  ways[connection.way.kind](connection, connection.way as never, parts)

export type { WayPiece, HandOverWay, WayParts } from './way'

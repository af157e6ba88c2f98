import type { Connection } from '#core/connection'
import { apiWay } from './api'
import { fileWay } from './file'
import { formPostWay } from './form-post'
import type { HandOverWay, WayParts } from './way'
import { webhookWay } from './webhook'

/** How a connection hands people over. */
export function wayOf(connection: Connection, parts: WayParts): HandOverWay {
  const { way } = connection
  switch (way.kind) {
    case 'api':
      return apiWay(connection, way, parts)
    case 'form-post':
      return formPostWay(connection, way, parts)
    case 'webhook':
      return webhookWay(connection, way, parts)
    case 'file':
      return fileWay(connection, way, parts)
  }
}

export type { WayPiece, HandOverWay, WayParts } from './way'

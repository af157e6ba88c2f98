import { handOverSchema } from '#core/connection'
import { objectKind } from './kind'

/** Which list is handed on by which connection, and how. */
export const handOver = objectKind({
  table: 'handOvers',
  schema: handOverSchema,
  references: ({ list, connection }) => [
    { part: 'list', kind: 'list', key: list },
    { part: 'connection', kind: 'connection', key: connection },
  ],
})

import { letterSchema } from '#core/letter'
import { objectKind } from './kind'

/** What its owner writes to lists. What went out is the receiver's. */
export const letter = objectKind({
  table: 'letters',
  schema: letterSchema,
  references: ({ draft: { lists } }) => lists.map((list) => ({ part: 'lists', kind: 'list', key: list })),
  drafted: ['draft'],
})

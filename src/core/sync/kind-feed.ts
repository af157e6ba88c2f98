import { feedProblem, feedSchema } from '#core/letter'
import { objectKind } from './kind'

/** A site's feed whose posts become letters. */
export const feed = objectKind({
  table: 'feeds',
  schema: feedSchema,
  references: ({ draft: { lists } }) => lists.map((list) => ({ part: 'lists', kind: 'list', key: list })),
  objection: ({ published }) => (published === null ? null : feedProblem(published)),
  drafted: ['draft'],
  publication: { kind: 'feed', of: (body) => ({ ...body, published: body.draft }) },
})

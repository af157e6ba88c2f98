import { seriesProblem, seriesSchema } from '#core/letter'
import { objectKind } from './kind'

/** Letters by days since joining. */
export const series = objectKind({
  table: 'series',
  schema: seriesSchema,
  references: ({ draft: { list } }) => [{ part: 'list', kind: 'list', key: list }],
  // Nothing empty goes to anybody, whoever sends the change.
  objection: ({ published }) => (published === null ? null : seriesProblem(published)),
  drafted: ['draft'],
  publication: { kind: 'series', of: (body) => ({ ...body, published: body.draft }) },
})

import { formSchema, picturesIn } from '#core/form'
import { objectKind } from './kind'

export const form = objectKind({
  table: 'forms',
  schema: formSchema,
  indexes: ['list'],
  references: ({ list, theme, draft }) => [
    { part: 'list', kind: 'list', key: list },
    ...(theme === null ? [] : [{ part: 'theme', kind: 'theme', key: theme }]),
    ...picturesIn(draft).map((key) => ({ part: 'draft', kind: 'picture', key })),
  ],
  loose: { part: 'theme', kind: 'theme' },
  drafted: ['draft', 'theme'],
  publication: {
    kind: 'version',
    of: ({ id, list, draft }, { number, at }) => ({ form: id, number, list, content: draft, publishedAt: at }),
  },
})

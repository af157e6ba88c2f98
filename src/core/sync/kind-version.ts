import { picturesIn, versionSchema } from '#core/form'
import { objectKind } from './kind'

/** A form as it was published. */
export const version = objectKind({
  table: 'versions',
  schema: versionSchema,
  naming: {
    keyOf: ({ form, number }) => `${form}/${number}`,
    keyPath: '[form+number]',
    primaryKeyOf(key) {
      const [form, number] = key.split('/')
      return [form, Number(number)]
    },
  },
  indexes: ['form'],
  references: ({ form, list, content }) => [
    { part: 'form', kind: 'form', key: form },
    { part: 'list', kind: 'list', key: list },
    ...picturesIn(content).map((key) => ({ part: 'content', kind: 'picture', key })),
  ],
  immutable: {
    isKeptForEver: true,
    whenChanged: 'This version of the form is published already, with other content.',
  },
})

import { spotSchema } from '#core/spot'
import { objectKind } from './kind'

export const spot = objectKind({
  table: 'spots',
  schema: spotSchema,
  indexes: ['form', 'site'],
  references: ({ form, site }) => [
    { part: 'form', kind: 'form', key: form },
    { part: 'site', kind: 'site', key: site },
  ],
})

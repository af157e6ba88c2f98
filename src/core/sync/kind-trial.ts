import { trialSchema } from '#core/trial'
import { objectKind } from './kind'

/** Wordings that are tried beside each other at a spot. */
export const trial = objectKind({
  table: 'trials',
  schema: trialSchema,
  indexes: ['form'],
  references: ({ form, spot, wordings }) => [
    { part: 'form', kind: 'form', key: form },
    { part: 'spot', kind: 'spot', key: spot },
    ...wordings.map(({ version }) => ({ part: 'wordings', kind: 'version', key: `${form}/${version}` })),
  ],
})

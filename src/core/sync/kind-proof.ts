import { proofSchema } from '#core/proof'
import { objectKind } from './kind'

/** How a rehearsal went. Of each spot enough to compare, and bounded however often rehearsals repeat. */
export const proof = objectKind({
  table: 'proofs',
  schema: proofSchema,
  indexes: ['spot'],
  immutable: { isKeptForEver: false, whenChanged: null },
  newest: { by: 'spot', count: 5 },
})

import { factsOf, pictureFactsSchema, pictureSchema } from '#core/picture'
import { objectKind } from './kind'

export const picture = objectKind({
  table: 'pictures',
  schema: pictureFactsSchema,
  immutable: { isKeptForEver: true, whenChanged: null },
  stored: { schema: pictureSchema, bodyOf: factsOf },
})

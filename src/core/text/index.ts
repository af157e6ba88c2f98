export {
  columnValue,
  harmlessText,
  keepableText,
  MAX_TEXT_LENGTH,
  MAX_VALUE_LENGTH,
  plainLine,
  refusedCharacter,
} from './text'
export { isolated } from './isolated'
export { partsOf } from './parts'
export { withoutAddresses } from './without-addresses'
export {
  type Block,
  bullets,
  FOLLOWABLE_LINK,
  linksIn,
  type Placeholder,
  placeholders,
  placeholdersIn,
  plainText,
  type RichText,
  richText,
  richTextSchema,
  saysNothing,
  type Span,
  tidied,
} from './rich'

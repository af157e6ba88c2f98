export { columnValue, harmlessText, keepableText, MAX_VALUE_LENGTH, plainLine, refusedCharacter } from './text'
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

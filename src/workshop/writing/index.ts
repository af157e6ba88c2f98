/** Writing a text where it stands: ProseMirror over the rich text of `core/text`. */
export { type Format, openEditor, type TextEditor } from './editor'
export { placeholderNames, type TextKind } from './schema'

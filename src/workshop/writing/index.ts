/** Writing a text where it stands: ProseMirror over the rich text of `core/text`. */
export { type Format, openEditor, type TextEditor } from './editor'
export type { TextKind } from './schema'

export { type Beside, type Document, type UndoRedo, useDocument } from './document'
export { undoByKeys, useUndoKeys } from './undo-keys'

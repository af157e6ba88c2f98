export { checkCopy, type CheckedCopy } from './check-copy'
export type { Engine, Transaction } from './engine'
export { DataFolderInUse, openEmbeddedEngine } from './embedded'
export { UnstorableText } from './libsql'

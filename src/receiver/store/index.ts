export { Damaged, isDamage } from './damage'
export { LibsqlDatabase } from './libsql'
export {
  bodyOf,
  bound,
  type Database,
  endOf,
  type Newest,
  newestOf,
  numberKey,
  parsed,
  type Row,
  type SubjectTables,
} from './database'
export type { Engine } from './engine'
export type { Gather } from './gathering'
export type { Step } from './migrations'
export type { RawAsk, RawDatabase, TableShape } from './raw'
export { switchable, type SwitchableEngine } from './switchable'
export { DataFolderInUse, openEmbeddedEngine } from './embedded'
export { UnstorableText } from './bound-value'
export { isUnwritable } from './unwritable'
export { openPostgresEngine, type PostgresAddress, readPostgresAddress, ServerUnusable } from './postgres'

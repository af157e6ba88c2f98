export { checkCopy, type CheckedCopy, Damaged, isDamage } from './check-copy'
export {
  type Engine,
  type FirstAnswer,
  type Handed,
  type HandedState,
  type Job,
  type JobState,
  LATER,
  type Newest,
  type PeopleStore,
  RETRY_WINDOW_MS,
  type StoredBatch,
  type StoredObject,
  type Transaction,
} from './engine'
export { DataFolderInUse, openEmbeddedEngine } from './embedded'
export { UnstorableText } from './bound-value'
export { isUnwritable } from './unwritable'
export { openPostgresEngine, type PostgresConnection } from './postgres'

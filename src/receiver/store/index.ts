export type { Store, SignUpResult, CommandOutcome, RefillResult, PublishResult } from './store'
export { DataFolderInUse, openEmbeddedStore } from './embedded'

export {
  database,
  type QueuedCommand,
  type Settings,
  type Synced,
  type SyncState,
  readSetting,
  writeSetting,
  emptyDatabase,
} from './database'
export { queueCommand, queuedCommands, settleCommands, takeBackRemoval } from './commands'
export { foldUnknownEntries, OtherJournal, takeEntries } from './journal'
export { useLive, useLiveTogether } from './live'
export { beginReplacing, endReplacing, takeItems, workspaceSource } from './workspace-file'
export { BY_SYNC, BY_THEME, type KeptDraft, readDraft, writeDraft } from './drafts'
export { bodyHere, chooseHere, chooseThere, objectTables, syncedId, takeObject, takeObjects, waitingChanges, type WaitingChange } from './objects'
export { keepSaved, saveAgain, savingProblem } from './saving'

export {
  BLOCK,
  database,
  type QueuedCommand,
  type KeptMessage,
  type LocalSettings,
  type Synced,
  type SyncState,
  readSetting,
  writeSetting,
  emptyAfterWithdrawal,
  emptyDatabase,
} from './database'
export { lookOn, mustNotLookOn } from './looking-on'
export { queueCommand, queuedCommands, settleCommands, takeBackRemoval } from './commands'
export { lastArrivalsOf, type RecentArrival, useArrivals } from './arrivals'
export {
  entriesAt,
  entriesFrom,
  entryAt,
  forgetUnknownEntries,
  journalTables,
  newestEntry,
  OtherJournal,
  requireJournal,
  forgetErasedAddresses,
  takeEntries,
} from './journal'
export { base64Of, dropGiftFilesBut, giftFile, hasGiftFile, keepGiftFile } from './gift-files'
export { messagesFrom } from './messages'
export { touches, useLive, useLiveTogether } from './live'
export { blobOf, usePictures } from './pictures'
export { useThemes } from './themes'
export { byName } from './workspace-tables'
export { useWorkspace } from './workspace'
export { beginReplacing, endReplacing, takeItems, workspaceSource } from './workspace-file'
export { BY_THEME, draftedParts, draftTables, type KeptDraft, readDraft, writeDraft } from './drafts'
export { chooseHere, chooseThere, takeObject, takeObjects } from './objects'
export { bodyHere, BY_SYNC, HERE, objectTableNames, objectTables, syncedId, writeHere } from './rows'
export { changesFor, waitingChanges, type WaitingChange } from './waiting-changes'
export { usePreferences } from './preferences'
export { enterDemo, isDemo, leaveDemo } from './demo'
export { keepSaved, saveAgain, savingProblem } from './saving'
export { useMeasured } from './measures'
export { keepProof, proofsOf } from './proofs'

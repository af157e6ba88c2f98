export { changesOf } from './changes'
export {
  emptyWorkspace,
  preferencesIn,
  type Workspace,
  workspaceSchema,
  WORKSPACE_FORMAT,
  WORKSPACE_VERSION,
} from './workspace'
export {
  checkWorkspace,
  notJson,
  readWorkspace,
  type WorkspaceChecker,
  type WorkspaceFact,
  workspaceFacts,
  type WorkspacePart,
  workspaceParts,
  type WorkspaceSource,
  writeWorkspace,
  writeWorkspaceFrom,
} from './file'
export type { WorkspaceProblem } from './problem'
export { shiftedTo } from './shift'

export { changesOf } from './changes'
export {
  emptyWorkspace,
  preferencesIn,
  type Workspace,
  type WorkspacePart,
  workspaceParts,
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
  type WorkspaceSource,
  writeWorkspace,
  writeWorkspaceFrom,
} from './file'
export { withPersonalPart } from './migrations'
export type { WorkspaceProblem } from './problem'
export { shiftedTo } from './shift'

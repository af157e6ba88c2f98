export {
  type Column,
  type ColumnKind,
  columnKinds,
  columnSchema,
  columnsOf,
  type List,
  listSchema,
  startList,
  type TableLayout,
} from './list'
export { type Member, memberDigest, type MemberStatus, memberStatuses, memberSchema, noCounts, valueOf } from './member'
export { oddValue } from './value'
export { A_DATE, type StatusMeaning, statusMeanings, statusIn, tickIn, wordOf } from './status-words'
export { tagsIn, tagsText } from './tags'
export { affectedMembers, movementOf, applyToMember, changed, isJoining } from './fold'
export { type BatchFacts, fitsPurpose, refusalOfChange, refusalOfNew, refusalOfRow } from './batch-rules'
export { decide, type Decision, type CommandContext, type Refusal } from './decide'
export { type BatchRecord, Roster } from './roster'
export type { Found, Sort, Wanted } from './wanted'
export {
  type Condition,
  conditionSchema,
  type Filter,
  filterSchema,
  matches,
  type SavedFilter,
  savedFilterSchema,
  withoutUnsaid,
} from './filter'

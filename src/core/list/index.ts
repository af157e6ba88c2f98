export { type List, listSchema, startList, type Column, columnsOf } from './list'
export { type Member, type MemberStatus, memberStatuses, memberSchema, valueOf } from './member'
export { affectedMember, applyToMember } from './fold'
export { decide, type Decision, type People, type Refusal } from './decide'

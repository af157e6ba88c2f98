export { messagesFile } from './messages'
export { plainCell, safeCell } from './formula'
export {
  factColumns,
  type FactWords,
  type PeopleFormat,
  peopleFormats,
  type PeopleWriter,
  peopleWriter,
} from './people'

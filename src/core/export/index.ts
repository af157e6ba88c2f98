export { messagesFile } from './messages'
export { plainCell, safeCell } from './formula'
export { factColumns, type PeopleFormat, peopleFormats, type PeopleWriter, peopleWriter } from './people'

export { byOlderCode, failedThere, refusedThere } from './causes'
export {
  failuresOf,
  lineOf,
  linesOf,
  type LineSubject,
  type Onward,
  onwardStates,
  type Signal,
  signalWords,
  type StationState,
} from './line'

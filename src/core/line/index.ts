export { isFailing, lineOf, linesOf, type LineSubject, type Signal, signalWords, type StationState } from './line'

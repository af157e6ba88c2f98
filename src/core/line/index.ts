export { failuresOf, lineOf, linesOf, type LineSubject, type Signal, signalWords, type StationState } from './line'

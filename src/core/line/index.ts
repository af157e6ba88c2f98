export { lineOf, type LineSubject, type Signal, signalWords, type StationState } from './line'

export { letterComposer } from './compose'
export { letterJobId, letterKey, type Letters, openLetters } from './letters'

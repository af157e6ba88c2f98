export { letterComposer } from './compose'
export { addDemoLetters } from './demo'
export { letterJobId, letterKey, type Letters, openLetters } from './letters'

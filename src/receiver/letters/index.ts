export { letterComposer } from './compose'
export { addDemoLetters } from './demo'
export { letterJobId, letterKey } from './letter-job'
export { type Letters, openLetters } from './letters'

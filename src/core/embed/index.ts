export { plainCode } from './plain'
export { codeReachProblem } from './reach'
export { afterPublishing, pasteSteps } from './steps'

export { plainCode } from './plain'
export { codeReachProblem } from './reach'

export { type ByHand, byHand } from './by-hand'
export {
  type Advice,
  type Advised,
  codeAdvice,
  codeNames,
  codeOf,
  countsViews,
  isPastedAgain,
  popUpProblem,
} from './advice'
export { codeAs } from './code-as'
export { fileAddress, fileName, pageFile } from './file'
export { frameCode, type FrameSize } from './frame'
export { frameAddress, linkCode, type LinkLook, pageAddress } from './link'
export { type HandedSpot, handoverFile, type HandoverPiece, piecesOf } from './handover'
export { plainCode } from './plain'
export { codeReachProblem } from './reach'
export { heightsAt, type PlaceHeights } from './heights'
export { placePart, popUpPart, sharedLine } from './script'
export { afterPublishing, headStep, pasteSteps, repeatSteps } from './steps'

export {
  type CodeKind,
  type Spot,
  slugSchema,
  spotSchema,
  suggestFormName,
  type SpotKind,
  codeKindSchema,
  spotKinds,
  spotName,
} from './spot'
export { type PopUp, popUpPositions, startPopUp } from './pop-up'
export { isOnPage, matchesPath } from './path-pattern'
export { pathPatternProblem } from './pattern-problem'

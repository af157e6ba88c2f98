export {
  type CodeKind,
  isBroughtByScript,
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
export { frameWords } from './frame-words'

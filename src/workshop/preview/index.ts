export { useFrameDocument } from './frame-document'
export { HELD_BY_EDITOR } from './morph'
export {
  type Scene,
  type Surroundings,
  type Visitor,
  formAlone,
  formInFrame,
  formInText,
  greetingAlone,
  scenePage,
  withStyle,
} from './scenes'
export { type Window, placeFindings, sitePage, siteWith, windows } from './site-page'

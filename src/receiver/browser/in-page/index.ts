export { afterPress, factsOf, inPlaceOf, watchSubmit } from './form'
export { closersOver, openersOf, wordsShown } from './openers'
export { lettersOf, movesAround, shownAgain, unshown, veilOver } from './pixels'
export { frameIn, type Part, pressedAt, shownOf, type Sight, whereOf, type Where } from './sight'

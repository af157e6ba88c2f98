export { placesOf, type FoundPlace, MOST_PLACES } from './places'
export { appliesTo, isForVisitor, type Visit } from './applies'
export { domTree } from './dom-tree'
export { type ChosenPages, pagesSchema } from './pages'
export { isOnPage, matchesPath } from './path-pattern'
export { pathPatternProblem } from './pattern-problem'
export {
  type Place,
  type Placing,
  placeSchema,
  placingSchema,
  type PublishedRule,
  type Rule,
  ruleSchema,
  startRule,
} from './rule'
export { selectorProblem } from './selector'
export { isStableName } from './stable'
export { type Tree } from './tree'
export { placeWords, ruleWords } from './words'

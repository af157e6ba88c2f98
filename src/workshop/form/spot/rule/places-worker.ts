import { expose } from 'comlink'
import { appliesTo, placesOf, type Rule } from '#core/rule'
import { parsePage } from '#core/submission'
import { parsedTree } from '#core/usable'

/** More are not counted. */
const MOST = 1_000

export interface PlacesOnPage {
  /** Whether the rule means the page. */
  isMeant: boolean
  /** How many forms stand there. */
  forms: number
  /** How many places a selector means, of which the first alone may be used. */
  found: number
}

const functions = {
  /** What a rule finds on a page. */
  places(html: string, path: string, rule: Rule, under: string): PlacesOnPage {
    const tree = parsedTree(parsePage(html))
    return {
      isMeant: appliesTo({ ...rule, under }, path, tree),
      forms: placesOf(tree, rule).length,
      found: placesOf(tree, { ...rule, times: 'each' }, MOST).length,
    }
  },
}
export type PlacesFunctions = typeof functions
expose(functions)

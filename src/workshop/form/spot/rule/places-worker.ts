import { expose } from 'comlink'
import { appliesTo, placesOf, type Rule } from '#core/rule'
import { parsePage } from '#core/submission'
import { parsedTree } from '#core/usable'

/** More are not counted. */
const MOST = 1_000

export interface PlacesOnPage {
  /** Whether the rule means the page. */
  isMeant: boolean
  count: number
}

const functions = {
  /** How many places a rule has on a page. */
  places(html: string, path: string, rule: Rule, under: string): PlacesOnPage {
    const tree = parsedTree(parsePage(html))
    return {
      isMeant: appliesTo({ ...rule, under }, path, tree),
      count: placesOf(tree, { ...rule, times: 'each' }, MOST).length,
    }
  },
}
export type PlacesFunctions = typeof functions
expose(functions)

import { isOnPage } from './path-pattern'
import type { PublishedRule } from './rule'
import type { Tree } from './tree'

/*
 * Whether a page, and whoever looks at it, is meant by a rule. The visitors' script uses these functions, so they need
 * nothing else of core's.
 */

/** Whether a page is one that a rule means. */
export function appliesTo<E>(
  { pages, marks, under, apart = [] }: Pick<PublishedRule, 'pages' | 'marks' | 'under' | 'apart'>,
  path: string,
  tree: Pick<Tree<E>, 'select'>,
): boolean {
  const isBelow = (folder: string) => path.startsWith(folder) || `${path}/` === folder
  const isOfSite = isBelow(under) && !apart.some(isBelow)
  const has = (selector: string) => isThere(tree, selector)
  return isOfSite && isOnPage(pages, path) && (marks.has.length === 0 || marks.has.some(has)) && !marks.lacks.some(has)
}

function isThere<E>(tree: Pick<Tree<E>, 'select'>, selector: string): boolean {
  try {
    return tree.select(selector).length > 0
  } catch {
    return false
  }
}

/** What is known of a visit, by the page alone. */
export interface Visit {
  /** The page's whole address. */
  address: string
  /** That of the page before; empty where it is not told. */
  referrer: string
  /** What the address says of a campaign; see `cameFrom`. */
  campaign: string
  hasJoined: boolean
}

/** Whether whoever looks at a page is meant by a rule. */
export function isForVisitor<E>(
  { who }: Pick<PublishedRule, 'who'>,
  { address, referrer, campaign, hasJoined }: Visit,
  tree: Pick<Tree<E>, 'select'>,
): boolean {
  const { members, joined, campaigns, from } = who
  if (members !== '' && isThere(tree, members)) return false
  if (hasJoined && joined === 'not-asked') return false
  if (campaigns.length > 0 && !campaigns.some((one) => campaign.toLowerCase().includes(one.toLowerCase()))) return false
  if (from === 'anywhere') return true
  const isOwn = referrer !== '' && hostIn(referrer) === hostIn(address)
  return isOwn === (from === 'own')
}

function hostIn(address: string): string {
  return (
    /^https?:\/\/(?:[^/?#@]*@)?([^/?#]+)/i
      .exec(address)?.[1]
      ?.toLowerCase()
      .replace(/^www\./, '') ?? ''
  )
}

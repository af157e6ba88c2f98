import { addressProblem, type Site } from '#core/site'
import type { Spot } from '#core/spot'

/** The pages that rules of a spot mean: a pop-up's, or those by which it is placed. */
const pagesOf = ({ kind, popUp, code, placing }: Spot) =>
  kind === 'pop-up' ? popUp?.pages : code === 'rule' ? placing?.published?.pages : undefined

/** Pages of a site that a spot's own rules leave out, to look that it stays away there. At most two. */
export function pagesWithout(spot: Spot, site: Site | null, sitePage: string): string[] {
  const pages = pagesOf(spot)
  if (pages === undefined || pages.which === 'all') return []
  const { which, patterns } = pages
  const origin = new URL(sitePage).origin
  const home = site !== null && addressProblem(site.address) === null ? site.address : sitePage
  const candidates =
    which === 'but'
      ? patterns
          .filter((pattern) => !pattern.includes(':'))
          .map((pattern) => new URL(pattern.replaceAll('*', ''), origin).href)
      : [new URL(home).href]
  return [...new Set(candidates)]
    .filter((address) => isNamed(patterns, new URL(address).pathname) === (which === 'but'))
    .slice(0, 2)
}

/** `*` is anything. Read here anew: what decides on visitors' pages is what is tried. */
function isNamed(patterns: readonly string[], path: string): boolean {
  return patterns.some((pattern) => {
    const parts = pattern.replace(/:[a-z_]\w*/gi, '*').split('*')
    if (parts.length === 1) return pattern === path
    let at = 0
    for (const [index, part] of parts.entries()) {
      const position = index === 0 ? (path.startsWith(part) ? 0 : -1) : path.indexOf(part, at)
      if (position < 0) return false
      at = position + part.length
    }
    return path.endsWith(parts.at(-1)!)
  })
}

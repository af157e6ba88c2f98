import type { PageToCheck } from '#core/install'
import { attribute, elementsBelow, parsePage, resolvedOn } from '#core/submission'

const MOST_LINKS = 2_000

/** Where the links of a page lead: whole addresses, each once. */
export function linksOn({ html, address }: PageToCheck): string[] {
  const links = new Set<string>()
  for (const element of elementsBelow(parsePage(html))) {
    if (links.size >= MOST_LINKS) break
    const href = element.tagName === 'a' ? attribute(element, 'href') : null
    const to = href === null ? null : resolvedOn(href, address)
    if (to !== null && /^https?:$/.test(to.protocol)) links.add(`${to.origin}${to.pathname}${to.search}`)
  }
  return [...links]
}

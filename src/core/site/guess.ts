import type { SiteKind } from './profiles'

/** Links of one page that are read; the first ones say most. */
const MOST_LINKS = 200
/** Of so many of a site's own pages at least, and of that share of them, the addresses end as files do. */
const LEAST_FILES = 3
const MOST_ARE_FILES = 0.8

/**
 * What a site is built with, as far as its page says so by open standards; null where only its owner can tell.
 *
 * A blog that its owner hosts announces where other programs post to it (Really Simple Discovery 1.0: `rel="EditURI"`) or
 * ping it (Pingback 1.0: `rel="pingback"`). Pages that are files have their names (common practice, no published source).
 *
 * @param address of the page, by which its links are resolved
 */
export function guessedKind(html: string, address: string): SiteKind | null {
  const hrefs: string[] = []
  for (const [tag] of html.matchAll(/<(?:link|a)\s[^<>]*>/gi)) {
    if (/\srel\s*=\s*["']?(?:edituri|pingback)\b/i.test(tag)) return 'self-hosted-blog'
    const href = /\shref\s*=\s*(?:"([^"]*)"|'([^']*)'|([^\s>]+))/i.exec(tag)
    if (/^<a\s/i.test(tag) && href !== null && hrefs.length < MOST_LINKS)
      hrefs.push(href[1] ?? href[2] ?? href[3] ?? '')
  }
  const base = URL.canParse(address) ? new URL(address) : null
  const pages = new Set<string>()
  for (const href of hrefs) {
    if (base === null || !URL.canParse(href, base.href)) continue
    const { host, pathname } = new URL(href, base.href)
    if (host === base.host && pathname !== '/') pages.add(pathname)
  }
  const files = [...pages].filter((path) => /\.html?$/i.test(path))
  return files.length >= LEAST_FILES && files.length >= MOST_ARE_FILES * pages.size ? 'static-pages' : null
}

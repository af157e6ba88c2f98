/*
 * Patterns for the paths of pages: `*` stands for anything, `:name` for one part between slashes. They mean what they
 * mean in the URL Pattern Standard, which has more besides. The visitors' script uses these functions, so they need
 * nothing else of core's.
 */

/** Whether a page's path, percent-encoded as `location.pathname` is, is one that a pattern means which can be used. */
export function matchesPath(pattern: string, path: string): boolean {
  const parts = pattern.split(/(\*|:[a-z_][a-z0-9_]*)/i)
  const source = parts.map((part, at) => (at % 2 === 0 ? literal(part) : part === '*' ? '.*' : '[^/]+')).join('')
  return new RegExp(`^${source}$`, 'u').test(path)
}

/** Whether a page is one of those that are chosen. */
export function isOnPage(
  { which, patterns }: { which: 'all' | 'only' | 'but'; patterns: readonly string[] },
  path: string,
) {
  return which === 'all' || patterns.some((pattern) => matchesPath(pattern, path)) === (which === 'only')
}

function literal(text: string): string {
  return encodeURI(text)
    .replaceAll('%25', '%')
    .replace(/[.^$|[\]/]/g, '\\$&')
}

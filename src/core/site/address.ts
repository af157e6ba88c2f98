/**
 * Why an address typed by the owner cannot be used as a place to send people to, in plain words, or
 * null when it can. Only `https:` goes, and `http:` on this computer's own loopback addresses.
 */
export function addressProblem(address: string): string | null {
  if (address.trim() === '') return 'No address is given yet.'
  let url: URL
  try {
    url = new URL(address.trim())
  } catch {
    return 'This is not a complete web address. It starts with https:// and a domain name.'
  }
  if (url.username !== '' || url.password !== '')
    return 'A web address with a name or password in it is not safe to publish.'
  if (url.protocol === 'https:') return null
  if (url.protocol === 'http:' && isLoopback(url.hostname)) return null
  return url.protocol === 'http:'
    ? 'The address must start with https://.'
    : 'Only web addresses that start with https:// can be used.'
}

/** An address as people say it, `myshop.example/letter`, completed to one that browsers take; anything else as it is. */
export function completedAddress(typed: string): string {
  const text = typed.trim()
  return /^(?:[\p{L}\p{N}-]{1,63}\.){1,10}\p{L}{2,63}(?:[/?#]|$)/u.test(text) ? `https://${text}` : text
}

/** Names and addresses that mean this very computer: RFC 6761 (localhost), RFC 1122 (127/8), RFC 4291 (::1). */
export function isLoopback(hostname: string): boolean {
  return (
    hostname === 'localhost' ||
    hostname.endsWith('.localhost') ||
    /^127(\.\d{1,3}){3}$/.test(hostname) ||
    hostname === '[::1]'
  )
}

/** The host a site is known by, for people; what was typed when it is no address yet. */
export function siteHost(address: string): string {
  try {
    return new URL(address).host
  } catch {
    return address
  }
}

/** The path that a site's pages lie under, with a slash at the end; `/` for an address that is none. */
export function sitePath(address: string): string {
  if (!URL.canParse(address.trim())) return '/'
  const { pathname } = new URL(address.trim())
  // A page is no folder.
  const folder = /\.\w+$/.test(pathname) ? pathname.slice(0, pathname.lastIndexOf('/')) : pathname
  return folder.endsWith('/') ? folder : `${folder}/`
}

/** Paths of further sites that lie below a site, on its own host: their pages are not its. */
export function sitesBelow(site: string, others: readonly string[]): string[] {
  const under = sitePath(site)
  return [...new Set(others)]
    .filter((other) => isSameHost(other, site) && sitePath(other) !== under && sitePath(other).startsWith(under))
    .map(sitePath)
}

/** With and without `www.`, a host is one site (common practice, no published source). */
function isSameHost(one: string, other: string): boolean {
  if (!URL.canParse(one.trim()) || !URL.canParse(other.trim())) return false
  const host = (address: string) => new URL(address.trim()).host.replace(/^www\./, '')
  return host(one) === host(other)
}

/**
 * A page's path with its query where it lies within a site; null elsewhere.
 *
 * @param apart see `sitesBelow`
 */
export function pathInSite(page: string, site: string, apart: readonly string[] = []): string | null {
  if (!isSameHost(page, site)) return null
  const { pathname, search } = new URL(page)
  const isBelow = (folder: string) => pathname.startsWith(folder) || `${pathname}/` === folder
  return isBelow(sitePath(site)) && !apart.some(isBelow) ? `${pathname}${search}` : null
}

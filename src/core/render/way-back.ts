import { addressProblem, type Site } from '#core/site'

/** Where a page of ours leads back to. */
export interface WayBack {
  name: string
  address: string
  /** What the site's own pages are painted on; not said where it is not known. */
  ground?: { background: string; text: string }
}

/** Back to a page of a site, or to the site itself; null where neither has an address. */
export function wayBackTo({ name, address: ofSite, palette }: Site, page = ''): WayBack | null {
  const address = [page, ofSite].find((one) => addressProblem(one) === null)
  if (address === undefined) return null
  return {
    name,
    address: new URL(address.trim()).href,
    ...(palette && { ground: { background: palette.background, text: palette.text } }),
  }
}

import type { Spot } from './spot'

/**
 * Where somebody signed up who did so in a frame: browsers tell a frame the site around it and no page, so the page is the
 * one that the spot was placed for, and is told as that. Null for other codes, or a page that was told.
 */
export function frameWords(
  spot: Pick<Spot, 'site' | 'code' | 'page'> | null,
  sites: readonly { id: string; name: string }[],
  page: string,
): string | null {
  if (spot === null || spot.code !== 'frame' || spot.page.trim() !== page) return null
  const site = sites.find(({ id }) => id === spot.site)?.name ?? 'a deleted site'
  return `In a frame of ${site}, placed for ${page}`
}

import { addressProblem, isLoopback, type Site } from '#core/site'
import type { Spot } from '#core/spot'

/** A place on a pretend site, in its own words. */
export interface StandInPlace {
  page: string
  place: 'site-head' | 'page-head' | 'inline' | 'after-post' | 'sidebar' | 'footer'
}

/** Where code of a spot is pasted for its owner, on a site that only pretends to be one; null on a real site. */
export function standInPlace(spot: Spot, site: Site | null, isForHead = false): StandInPlace | null {
  const page = [spot.page, site?.address ?? ''].find((address) => addressProblem(address) === null)
  if (page === undefined || !isLoopback(new URL(page).hostname)) return null
  if (isForHead) return { page, place: 'site-head' }
  // A pop-up that belongs to one page goes into that page's head.
  if (spot.kind === 'pop-up') return { page, place: spot.page === '' ? 'site-head' : 'page-head' }
  return { page, place: spot.kind === 'landing' ? 'inline' : spot.kind }
}

/**
 * @returns where it is now, and from when on visitors see it; null for at once
 * @throws Error in words for the owner
 */
export async function pasteForOwner(
  { page, place }: StandInPlace,
  code: string,
): Promise<{ where: string; seenAt: string; shownFrom: string | null }> {
  let response: Response
  try {
    response = await fetch(new URL('/paste', page), {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ page, place, code }),
    })
  } catch {
    throw new Error(`No pretend site answers at ${new URL(page).origin}.`)
  }
  const said = (await response.json().catch(() => ({}))) as {
    where?: string
    seenAt?: string
    shownFrom?: string | null
    problem?: string
  }
  if (!response.ok || said.where === undefined || said.seenAt === undefined)
    throw new Error(said.problem ?? `The site answered ${response.status}.`)
  return { where: said.where, seenAt: said.seenAt, shownFrom: said.shownFrom ?? null }
}

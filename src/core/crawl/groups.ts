import type { Spot } from '#core/spot'
import type { CrawlReport, LookedPage, SpotOnPage } from './report'

/** Fewer pages than this are no group of their own. */
const LEAST = 2
/** Numbers in an address: a year, a month, a page of a list. They tell no group from another. */
const NUMBER = /^\d+$/

/**
 * Pages by the folder that they lie in, such as `/posts`, or nothing for the site’s top; folders of one page are told of with what they lie in.
 *
 * @param base path of the site, with a slash at the end
 */
export function pageGroups<P extends { path: string }>(
  pages: readonly P[],
  base = '/',
): { under: string; pages: P[] }[] {
  const groups = new Map<string, P[]>()
  for (const page of pages) {
    const under = folderOf(page.path, base)
    const group = groups.get(under)
    if (group === undefined) groups.set(under, [page])
    else group.push(page)
  }
  const depthOf = (under: string) => under.split('/').length - 1
  // From the deepest: what is told of with what it lies in may make that large enough.
  for (let depth = Math.max(0, ...[...groups.keys()].map(depthOf)); depth > 0; depth--)
    for (const [under, own] of [...groups]) {
      if (depthOf(under) !== depth || own.length >= LEAST) continue
      const around = under.slice(0, under.lastIndexOf('/'))
      groups.delete(under)
      const outer = groups.get(around)
      if (outer === undefined) groups.set(around, own)
      else outer.push(...own)
    }
  return [...groups]
    .map(([under, own]) => ({ under, pages: own }))
    .sort((one, other) => other.pages.length - one.pages.length || one.under.localeCompare(other.under))
}

function folderOf(path: string, base: string): string {
  const whole = path.replace(/[?#].*/, '')
  const own = whole.startsWith(base) ? whole.slice(base.length - 1) : whole === base.slice(0, -1) ? '/' : whole
  const parts = own.split('/').slice(1)
  // A folder’s own page stands with what is in it only where it ends with a slash and is not the whole name.
  const folders = parts.slice(0, -1).filter((part) => part !== '' && !NUMBER.test(part))
  return folders.length === 0 ? '' : `/${folders.join('/')}`
}

/** How a spot stands on the pages of one group. */
export interface SpotInGroup {
  under: string
  of: number
  /** Pages by what the spot is there; pages without it are those that are left. */
  states: Partial<Record<SpotOnPage, LookedPage[]>>
  without: LookedPage[]
}

export function spotInGroups(report: CrawlReport, spot: string, base?: string): SpotInGroup[] {
  return pageGroups(
    report.pages.filter(({ problem }) => problem === undefined),
    base,
  ).map(({ under, pages }) => {
    const states: SpotInGroup['states'] = {}
    const without: LookedPage[] = []
    for (const page of pages) {
      const here = page.spots[spot]
      if (here === undefined) without.push(page)
      else (states[here.state] ??= []).push(page)
    }
    return { under, of: pages.length, states, without }
  })
}

/** What is different from the time before, of pages that were looked at both times. */
export interface CrawlChange {
  spot: string
  path: string
  was: SpotOnPage | null
  is: SpotOnPage | null
}

export function crawlChanges(before: CrawlReport, newest: CrawlReport): CrawlChange[] {
  const then = new Map(before.pages.filter(({ problem }) => problem === undefined).map((page) => [page.path, page]))
  return newest.pages.flatMap((page) => {
    const earlier = then.get(page.path)
    if (earlier === undefined || page.problem !== undefined) return []
    const both = newest.spots.filter((spot) => before.spots.includes(spot))
    return both.flatMap((spot) => {
      const [was, is] = [earlier.spots[spot]?.state ?? null, page.spots[spot]?.state ?? null]
      return was === is ? [] : [{ spot, path: page.path, was, is }]
    })
  })
}

/** Whether a spot can be used where it stands so. */
export const isSound = (state: SpotOnPage | null) => state === 'there' || state === 'older' || state === 'unseen'

/**
 * Some of many pages: each group gives one in turn, so that no large group hides a small one.
 *
 * @param most how many
 */
export function spread<P extends { path: string }>(pages: readonly P[], most: number): P[] {
  if (pages.length <= most) return [...pages]
  const groups = pageGroups(pages).map((group) => group.pages)
  const chosen: P[] = []
  for (let at = 0; chosen.length < most; at++)
    for (const group of groups) if (at < group.length && chosen.length < most) chosen.push(group[at]!)
  return chosen
}

/**
 * Pages for a rehearsal, as addresses: up to three of each group on which a spot’s rule has its place, by chance.
 *
 * @param site its address
 * @param random from 0 up to 1
 */
export function pagesToRehearse(
  report: CrawlReport | null,
  { id: spot, code }: Pick<Spot, 'id' | 'code'>,
  { site, random, each = 3 }: { site: string; random: () => number; each?: number },
): string[] {
  if (report === null || code !== 'rule' || !URL.canParse(site)) return []
  const paths = spotInGroups(report, spot).flatMap(({ states }) => {
    const there = [...(states.there ?? []), ...(states.unseen ?? [])]
    const chosen: string[] = []
    while (chosen.length < each && there.length > 0)
      chosen.push(there.splice(Math.floor(random() * there.length), 1)[0]!.path)
    return chosen
  })
  return paths.map((path) => new URL(path, site).href)
}

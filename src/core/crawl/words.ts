import type { SpotInGroup } from './groups'
import type { SpotOnPage } from './report'

export const spotOnPageWords: Record<SpotOnPage, string> = {
  there: 'in place',
  twice: 'twice on a page',
  older: 'an older version',
  damaged: 'damaged',
  'no-place': 'no place found',
  unseen: 'only a browser can tell',
}

const pagesWords = (count: number) => (count === 1 ? '1 page' : `${count.toLocaleString('en-GB')} pages`)

/** Pages of a group, in words: “all 41 pages under /posts”. */
export function groupWords(under: string, of: number, count = of): string {
  const where = under === '' ? 'at the top' : `under ${under}`
  if (count === of)
    return of === 1
      ? `the only page ${where}`
      : `${of === 2 ? 'both' : 'all'} ${of === 2 ? 'pages' : pagesWords(of)} ${where}`
  return `${count} of ${pagesWords(of)} ${where}`
}

/** One sentence for a spot: where it is in place, and where it is not. */
export function spotSentence(groups: readonly SpotInGroup[]): string {
  const there = groups.filter(({ states }) => (states.there ?? []).length > 0)
  const lost = groups.filter(({ states }) => (states['no-place'] ?? []).length > 0)
  const wrong = groups.flatMap(({ states }) => [...(states.damaged ?? []), ...(states.twice ?? [])])
  if (there.length === 0 && lost.length === 0 && wrong.length === 0) return 'It is on none of these pages.'
  const parts = [
    there.length === 0
      ? 'In place on no page'
      : `In place on ${there.map(({ under, of, states }) => groupWords(under, of, states.there!.length)).join(', ')}`,
    ...(lost.length === 0
      ? []
      : [
          `no place on ${lost.map(({ under, of, states }) => groupWords(under, of, states['no-place']!.length)).join(', ')}`,
        ]),
    ...(wrong.length === 0 ? [] : [`wrong on ${pagesWords(wrong.length)}`]),
  ]
  return `${parts.join('; ')}.`
}

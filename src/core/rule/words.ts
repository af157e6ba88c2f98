import type { ChosenPages } from './pages'
import type { Place, Rule } from './rule'

const ordinal = (number: number): string => {
  const words = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth']
  return words[number - 1] ?? `${number}th`
}

/** Where a rule puts its form, in words for its owner. */
export function placeWords(place: Place, times: Rule['times'] = 'once'): string {
  const isEach = times === 'each'
  switch (place.kind) {
    case 'selector':
      return `${{ before: 'before', after: 'after', inside: 'inside, at the end of' }[place.at]} ${isEach ? 'each' : 'the first'} ${place.selector}`
    case 'text':
      return isEach
        ? `after each ${place.of} of the text`
        : `after the ${ordinal(place.number)} ${place.of} of the text`
    case 'entry':
      return isEach
        ? 'below each entry of a page of many'
        : `after the ${ordinal(place.number)} entry of a page of many`
    case 'post-end':
      return 'at the end of each post'
    case 'foot':
      return place.at === 'above' ? 'above the foot of the page' : 'below the foot of the page'
    case 'edge':
      return 'at the lower edge of the window'
  }
}

function pagesWords({ which, patterns }: ChosenPages): string {
  const named = patterns.join(', ')
  if (which === 'all' || patterns.length === 0) return which === 'only' ? 'on no page' : 'on all pages'
  return which === 'only' ? `on ${named}` : `on all pages but ${named}`
}

/** A whole rule in one sentence. */
export function ruleWords({ place, times, pages, marks, who }: Rule): string {
  const parts = [
    placeWords(place, times),
    pagesWords(pages),
    ...(marks.has.length > 0 ? [`where ${marks.has.join(' or ')} is`] : []),
    ...(marks.lacks.length > 0 ? [`not where ${marks.lacks.join(' or ')} is`] : []),
    ...(who.members !== '' ? ['not for members'] : []),
    ...(who.joined === 'not-asked' ? ['not for who has joined'] : []),
    ...(who.campaigns.length > 0 ? [`for who came by ${who.campaigns.join(' or ')}`] : []),
    ...(who.from === 'own' ? ['for who comes from another page of the site'] : []),
    ...(who.from === 'elsewhere' ? ['for who comes from elsewhere'] : []),
  ]
  const sentence = parts.join(', ')
  return `${sentence.charAt(0).toUpperCase()}${sentence.slice(1)}.`
}

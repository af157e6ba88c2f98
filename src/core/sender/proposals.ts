import { readSpf } from './spf-record'

/** Asks nothing of receivers yet, and is what large ones want to see at all. A stricter policy is the owner’s to choose. */
export const proposedDmarc = 'v=DMARC1; p=none'

/**
 * A record that takes in one more mechanism, before what is said of all others; mechanisms are asked in their order
 * (RFC 7208, section 4.6.2). A record that lets everybody send asks for care instead.
 *
 * @param text a record that can be read, or '' for none
 */
export function allowInSpf(text: string, mechanism: string): string {
  const terms = text.split(' ').filter(Boolean).slice(1)
  const isOfAll = (term: string) => /^[-+~?]?all$/i.test(term)
  const isLast = (term: string) => isOfAll(term) || /^(?:redirect|exp)=/i.test(term)
  const ofAll = terms.find(isOfAll)
  const others = terms.filter((term) => !isLast(term))
  const last = terms.filter((term) => isLast(term) && !isOfAll(term))
  const end = ofAll === undefined ? (last.some((term) => /^redirect=/i.test(term)) ? [] : ['~all']) : [cautious(ofAll)]
  const added = mechanism === '' || others.includes(mechanism) ? [] : [mechanism]
  return ['v=spf1', ...others, ...added, ...end, ...last].join(' ')
}

const cautious = (ofAll: string): string => (/^[-~?]/.test(ofAll) ? ofAll : '~all')

/** One record of several, of which receivers take none (RFC 7208, section 4.5). The mildest word about all others stays. */
export function mergeSpf(texts: string[], mechanism: string): string {
  const readable = texts.filter((text) => readSpf(text).ok)
  const terms = readable.flatMap((text) => text.split(' ').filter(Boolean).slice(1))
  const others = new Set(terms.filter((term) => !/^[-+~?]?all$|^(?:redirect|exp)=/i.test(term)))
  const redirects = terms.filter((term) => /^redirect=/i.test(term)).map((term) => `include:${term.slice(9)}`)
  const words = terms.filter((term) => /^[-+~?]?all$/i.test(term)).map(cautious)
  const end = ['?all', '~all', '-all'].find((word) => words.includes(word)) ?? '~all'
  return allowInSpf(['v=spf1', ...others, ...redirects, end].join(' '), mechanism)
}

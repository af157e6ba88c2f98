import { domTree, type Place, placesOf } from '#core/rule'

/**
 * What a part is of any page like this one: the third paragraph of the text, an entry, the foot. Such a place holds on
 * pages that have neither its classes nor its neighbours. Null where it is none of these.
 */
export function meaningOf(part: Element): Place | null {
  const tree = domTree<Element>(part.ownerDocument, () => false)
  const all = (place: Place) => placesOf(tree, { place, times: 'each' }, 200).map(({ beside }) => beside)
  const isIn = (found: readonly Element[]) =>
    found.findIndex((one) => one === part || (one.contains(part) && isInline(part, one)))
  const kinds: ((number: number) => Place)[] = [
    (number) => ({ kind: 'text', of: 'paragraph', number }),
    (number) => ({ kind: 'text', of: 'heading', number }),
    (number) => ({ kind: 'entry', number }),
  ]
  for (const kind of kinds) {
    const at = isIn(all(kind(1)))
    if (at >= 0 && at < 50) return kind(at + 1)
  }
  const foot: Place = { kind: 'foot', at: 'above' }
  const [found] = placesOf(tree, { place: foot, times: 'once' })
  return found?.at === 'before' && found.beside === part ? foot : null
}

/** Whether a part is words within another, such as a link in a paragraph. */
function isInline(part: Element, around: Element): boolean {
  const { display } = part.ownerDocument.defaultView!.getComputedStyle(part)
  return display.startsWith('inline') && /^(?:p|h[1-6])$/.test(around.localName)
}

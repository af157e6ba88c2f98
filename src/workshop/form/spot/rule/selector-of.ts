import { isStableName } from '#core/rule'

/** Attributes that say what a part is for. */
const SAYING = new Set(['role', 'itemprop', 'data-section-type', 'aria-label'])

/** The shortest selector that means one part alone, by what is likely to stay: an id, a landmark, a class, then a position. */
export async function selectorOf(part: Element): Promise<string> {
  const { finder } = await import('@medv/finder')
  return finder(part, {
    root: part.ownerDocument.body,
    idName: isStableName,
    className: isStableName,
    attr: (name, value) => SAYING.has(name) && value.length < 40,
    timeoutMs: 2_000,
  })
}

/** A selector of a part and of those like it: the same kind of element, with a class that they share, in the same part of the page. */
export async function selectorOfAlike(part: Element): Promise<string | null> {
  const around = part.parentElement
  if (around === null) return null
  const alike = [...around.children].filter((one) => one.localName === part.localName)
  if (alike.length < 2) return null
  const shared = [...part.classList].filter(
    (name) => isStableName(name) && alike.filter((one) => one.classList.contains(name)).length > 1,
  )
  const own = shared.length > 0 ? `.${shared[0]!}` : part.localName
  const { body } = part.ownerDocument
  const candidates = shared.length > 0 ? [own, `${part.localName}${own}`] : []
  const within = around === body ? 'body' : await selectorOf(around)
  const all = [...candidates, `${within} > ${own}`]
  // The shortest that means nothing but them.
  return (
    all.find((selector) => [...body.querySelectorAll(selector)].every((one) => one.parentElement === around)) ?? null
  )
}

import { get as valueAtPointer } from 'jsonpointer'

type Parts = Record<string, unknown>
const isParts = (value: unknown): value is Parts => value !== null && typeof value === 'object'

/** A reference may lead to a reference; further than this nobody writes them. */
const MOST_STEPS = 20
/** Of parts that say more beside a reference, and so are copies: of all together. */
const MOST_COPIED = 200_000

export type Followed = { ok: true } | { ok: false; message: string }

/**
 * Puts in place of each reference (OpenAPI Specification 3.1, section 4.8.23; RFC 6901) what it leads to: the very same object
 * wherever it is named, so that this takes as long as the document is, however often parts are shared. What refers to
 * itself becomes a circle; whoever walks through it keeps count.
 *
 * Packages that dereference walk each way to a shared part anew: thirty levels that name the next one twice are a thousand
 * million ways.
 */
export function followReferences(document: object): Followed {
  const seen = new Set<object>([document])
  const stack: object[] = [document]
  let copied = 0
  for (let holder = stack.pop(); holder !== undefined; holder = stack.pop())
    for (const [name, part] of Object.entries(holder)) {
      // A name that objects have of themselves is none of a description’s.
      if (!isParts(part) || name === '__proto__') continue
      let value: Parts = part
      if (typeof part.$ref === 'string') {
        const target = targetOf(document, part)
        if (target === null)
          return { ok: false, message: `A reference in it leads nowhere: ${part.$ref.slice(0, 200)}` }
        const { $ref: _, ...beside } = part
        const more = Object.keys(beside).length
        if (more > 0) copied += Object.keys(target).length + more
        if (copied > MOST_COPIED) return { ok: false, message: 'It refers to large parts too often.' }
        value = more === 0 ? target : { ...target, ...beside }
        ;(holder as Parts)[name] = value
      }
      if (seen.has(value)) continue
      seen.add(value)
      stack.push(value)
    }
  return { ok: true }
}

/** The part that a chain of references ends at; null where it leads nowhere, or round. */
function targetOf(document: object, from: Parts): Parts | null {
  let at: unknown = from
  for (let step = 0; step < MOST_STEPS; step += 1) {
    if (!isParts(at)) return null
    if (typeof at.$ref !== 'string') return at
    at = pointed(document, at.$ref)
  }
  return null
}

function pointed(document: object, reference: string): unknown {
  if (!reference.startsWith('#')) return undefined
  try {
    const pointer = decodeURIComponent(reference.slice(1))
    return pointer === '' ? document : (valueAtPointer(document, pointer) as unknown)
  } catch {
    return undefined
  }
}

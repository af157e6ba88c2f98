import leven from 'leven'
import type { ExpectedCode } from './report'

/** A code of this receiver's that names another spot than the one that is looked for. */
export interface NamedSpot {
  id: string
  /** Of one of the owner's own spots; null where no spot has that id. */
  name: string | null
  /** The spot that was meant, where only a letter or two differ. */
  meant: { id: string; name: string } | null
  /** What of the page names it, to find its line by. */
  text: string
}

/** Letters by which two ids may differ and one is still taken for the other, miscopied. */
const MOST_LETTERS = 2

/** The spot that the page's code names in place of the expected one: another of the owner's, or none; null for no code. */
export function namedInstead(
  html: string,
  expected: Pick<ExpectedCode, 'receiver' | 'others' | 'spot'>,
): NamedSpot | null {
  const { receiver, spot } = expected
  // Optimizers leave out the scheme.
  const origin = receiver.replace(/^https?:/, '')
  const parts = html.split(origin).slice(1)
  const named = parts.flatMap((part) => {
    const [text, way, id] = CODE.exec(part) ?? []
    if (text === undefined || id === undefined || id === spot.id || id === spot.slug) return []
    const isCertain = way !== '/page/' || part.startsWith('#askbox', text.length)
    const one = spotNamed(id, expected)
    // A landing page is linked by a name of its own as well, which is not among the ids.
    return one.name !== null || isCertain || one.meant?.id === spot.id ? [{ ...one, text: origin + text }] : []
  })
  return named.find(({ name }) => name === null) ?? named[0] ?? null
}

/** What is known of an id that stands in a code. */
export function spotNamed(
  id: string,
  { others, spot }: Pick<ExpectedCode, 'others' | 'spot'>,
): Omit<NamedSpot, 'text'> {
  const name = others.get(id) ?? null
  if (name !== null) return { id, name, meant: null }
  const own = others.get(spot.id) ?? 'this spot'
  const nearest = [[spot.id, own] as const, ...(spot.slug ? [[spot.slug, own] as const] : []), ...others]
    .map(([of, called]) => ({ id: of === spot.slug ? spot.id : of, name: called, letters: leven(id, of) }))
    .filter(({ letters }) => letters <= MOST_LETTERS)
    .toSorted((a, b) => a.letters - b.letters)[0]
  return { id, name: null, meant: nearest === undefined ? null : { id: nearest.id, name: nearest.name } }
}

const CODE = /^(\/join\/|\/frame\/|\/page\/|\/askbox\.js#pop-up-)([A-Za-z0-9_-]+)/

/** What is wrong with a code that names no spot, or another: told alike by the check, and by a rehearsal. */
export function namedWords(
  named: Omit<NamedSpot, 'text'>,
  wanted: string,
): { happened: string; cause: string; mend: string } {
  const { id, name, meant } = named
  if (name !== null)
    return {
      happened: `The code of another spot stands there: ${name}.`,
      cause: 'The code of another spot was pasted here.',
      mend: 'Where both are meant to be on the page, paste this spot’s code beside it. Put it in its place only where that one was pasted by mistake.',
    }
  return {
    happened: `The code there names a spot that does not exist, “${id}”: visitors find no form.`,
    cause:
      meant === null
        ? 'The code was changed by hand, or is of a spot that is gone, or of another workspace.'
        : meant.id === wanted
          ? 'It was miscopied: but for a letter or two, it names this spot.'
          : `It was miscopied: but for a letter or two, it names another spot, ${meant.name}.`,
    mend:
      meant === null || meant.id === wanted
        ? 'Paste this spot’s code in its place.'
        : `Where ${meant.name} was meant, paste that spot’s code in its place; else this one’s.`,
  }
}

import { siteProfiles, type Site } from '#core/site'
import type { CodeKind, Spot } from '#core/spot'

export interface Advised {
  kind: CodeKind
  reason: string
}

/** Which codes work at a spot, the best first, and which do not, each with its reason. */
export interface Advice {
  works: [best: Advised, ...others: Advised[]]
  ruledOut: Advised[]
}

export const codeNames: Record<CodeKind, string> = {
  plain: 'The form itself',
  frame: 'A frame with the form',
  link: 'A link to its page',
}

/** What works is computed from where the form sits and from what the site's builder permits. */
export function codeAdvice(spot: Pick<Spot, 'kind'>, site: Pick<Site, 'kind'>): Advice {
  if (spot.kind === 'landing')
    return { works: [{ kind: 'link', reason: 'The form is a page of its own, which is linked to.' }], ruledOut: [] }
  const { keepsForms, keepsStyles, keepsFrames } = siteProfiles[site.kind]
  const takesOut = (...parts: (string | false)[]) => {
    const missing = parts.filter((part) => part !== false)
    return missing.length === 0 ? null : `This kind of site takes ${missing.join(' and ')} out of what is pasted.`
  }
  const all: [CodeKind, works: string, ruledOut: string | null][] = [
    [
      'plain',
      'Visitors sign up on the page itself; it works with scripts switched off, too.',
      takesOut(!keepsForms && 'forms', !keepsStyles && 'styles'),
    ],
    [
      'frame',
      'The site’s own styles cannot reach into a frame, and it shows each change at once; its size is set, whatever the form needs.',
      takesOut(!keepsFrames && 'frames'),
    ],
    ['link', 'A link works on every site, and shows each change at once.', null],
  ]
  const [best, ...others] = all.filter(([, , ruledOut]) => ruledOut === null)
  const works = ([kind, reason]: (typeof all)[number]): Advised => ({ kind, reason })
  return {
    works: [works(best!), ...others.map(works)],
    ruledOut: all.flatMap(([kind, , reason]) => (reason === null ? [] : [{ kind, reason }])),
  }
}

/** The code that a spot has: its owner's choice where that works there, else the best. */
export function codeOf(spot: Pick<Spot, 'kind' | 'code'>, site: Pick<Site, 'kind'> | null): CodeKind {
  const { works } = codeAdvice(spot, site ?? { kind: 'other' })
  return works.find(({ kind }) => kind === spot.code)?.kind ?? works[0].kind
}

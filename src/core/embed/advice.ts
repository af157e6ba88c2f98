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

export const codeNames: Record<CodeKind, string> = { plain: 'The form itself', link: 'A link to its page' }

/** What works is computed from where the form sits and from what the site's builder permits. */
export function codeAdvice(spot: Pick<Spot, 'kind'>, site: Pick<Site, 'kind'>): Advice {
  const link: Advised = { kind: 'link', reason: 'A link works on every site, and shows each change at once.' }
  if (spot.kind === 'landing')
    return { works: [{ kind: 'link', reason: 'The form is a page of its own, which is linked to.' }], ruledOut: [] }
  const { keepsForms, keepsStyles } = siteProfiles[site.kind]
  const missing = [!keepsForms && 'forms', !keepsStyles && 'styles'].filter((one) => one !== false)
  return missing.length === 0
    ? {
        works: [
          { kind: 'plain', reason: 'Visitors sign up on the page itself; it works with scripts switched off, too.' },
          link,
        ],
        ruledOut: [],
      }
    : {
        works: [link],
        ruledOut: [
          { kind: 'plain', reason: `This kind of site takes ${missing.join(' and ')} out of what is pasted.` },
        ],
      }
}

/** The code that a spot has: its owner's choice where that works there, else the best. */
export function codeOf(spot: Pick<Spot, 'kind' | 'code'>, site: Pick<Site, 'kind'> | null): CodeKind {
  const { works } = codeAdvice(spot, site ?? { kind: 'other' })
  return works.find(({ kind }) => kind === spot.code)?.kind ?? works[0].kind
}

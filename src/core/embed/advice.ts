import { profileOf, type Site } from '#core/site'
import type { CodeKind, Spot, SpotKind } from '#core/spot'

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
  script: 'A script that brings the form',
  plain: 'The whole form as code',
  'in-tags': 'The whole form as code, styles in its tags',
  frame: 'A frame with the form',
  link: 'A link to the form’s page',
  file: 'The form’s page as a file',
  rule: 'By rule: nothing is pasted',
}

type BuiltSite = Pick<Site, 'kind' | 'profile'>

/** What works is computed from where the form sits and from what the site's builder permits. */
export function codeAdvice({ kind }: { kind: SpotKind }, site: BuiltSite): Advice {
  const permits = profileOf(site)
  const takesOut = (...parts: (string | false)[]) => {
    const missing = parts.filter((part) => part !== false)
    return missing.length === 0 ? null : `This kind of site takes ${missing.join(' and ')} out of what is pasted.`
  }
  const hasHead = permits.siteHead || permits.pageHead
  const link: Candidate = ['link', 'A link works on every site, and shows each change at once.', null]
  if (kind === 'landing')
    return advice([
      ['link', 'The form is a page of its own, which is linked to.', null],
      ['file', 'One file to put anywhere; after each publishing it is fetched anew.', null],
    ])
  if (kind === 'pop-up')
    return advice([
      [
        'script',
        'A pop-up is shown by a script in the head, by the rules that stand here; it shows each change at once.',
        hasHead ? null : 'This kind of site has no place for code in its head.',
      ],
      link,
    ])
  return advice([
    [
      'script',
      'Each change of words or look reaches the page by itself, and the site’s own styles cannot reach into the form.',
      hasHead ? null : takesOut(!permits.keepsScripts && 'scripts'),
    ],
    [
      'rule',
      'The shared line puts the form where you say, on all pages that you say: nothing is pasted at a place, or forgotten at the next post.',
      permits.siteHead ? null : 'This kind of site takes no code that is on every page.',
    ],
    [
      'plain',
      'Visitors sign up on the page itself; it works with scripts switched off, too.',
      takesOut(!permits.keepsForms && 'forms', !permits.keepsStyles && 'styles'),
    ],
    ...(permits.keepsForms && !permits.keepsStyles
      ? [
          [
            'in-tags',
            'The same without a style sheet, which this kind of site takes out.',
            takesOut(!permits.keepsStyleAttributes && 'style attributes'),
          ] satisfies Candidate,
        ]
      : []),
    [
      'frame',
      'The site’s own styles cannot reach into a frame, and it shows each change at once. A form that grows is scrolled in it, until its code is pasted anew.',
      takesOut(!permits.keepsFrames && 'frames'),
    ],
    link,
  ])
}

/**
 * Why a pop-up cannot appear on a site, or null where it can: a script in the head shows it, and nothing else does.
 */
export function popUpProblem(site: BuiltSite): string | null {
  return codeAdvice({ kind: 'pop-up' }, site).works[0].kind === 'script'
    ? null
    : 'A pop-up needs code that goes on every page, and this kind of site has no place for that.'
}

type Candidate = [kind: CodeKind, works: string, ruledOut: string | null]

function advice(all: Candidate[]): Advice {
  const works = all.flatMap(([kind, reason, ruledOut]) => (ruledOut === null ? [{ kind, reason }] : []))
  return {
    works: works as Advice['works'],
    ruledOut: all.flatMap(([kind, , reason]) => (reason === null ? [] : [{ kind, reason }])),
  }
}

/**
 * The code that a spot has: its owner's choice where that works there. Spots from before there was a choice have the
 * form itself, which may stand on their pages.
 */
export function codeOf(spot: Pick<Spot, 'kind' | 'code'>, site: BuiltSite | null): CodeKind {
  const { works } = codeAdvice(spot, site ?? { kind: 'other' })
  const chosen = spot.code ?? 'plain'
  return works.find(({ kind }) => kind === chosen)?.kind ?? works[0].kind
}

/** Whether what stands at a spot tells of being seen: a script on the page, or our own server where it sends the form. */
export function countsViews(spot: Pick<Spot, 'kind' | 'code'>, site: BuiltSite | null): boolean {
  const code = codeOf(spot, site)
  return spot.kind === 'landing' || code === 'script' || code === 'rule' || code === 'frame' || code === 'link'
}

/** Whether a place with this code has to have it pasted anew when words or look change. */
export function isPastedAgain(code: CodeKind): boolean {
  return code === 'plain' || code === 'in-tags' || code === 'file'
}

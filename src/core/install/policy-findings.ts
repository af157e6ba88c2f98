import { frameAddress } from '#core/embed'
import { attribute } from '#core/submission'
import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import { linesOf } from './lines'
import { forbiddenBy } from './policy'
import type { ExpectedCode, InstallFinding, PageToCheck } from './report'

export function policyFindings(
  { address, policies }: PageToCheck,
  elements: readonly Html.Element[],
  { spot, code, receiver }: ExpectedCode,
): InstallFinding[] {
  const inPage = elements.filter(
    (element) =>
      element.tagName === 'meta' && attribute(element, 'http-equiv')?.toLowerCase() === 'content-security-policy',
  )
  const all = [...policies, ...inPage.map((element) => attribute(element, 'content') ?? '')]
  const needs: [directive: string, target: string, what: string, weight: InstallFinding['weight']][] = {
    plain: [
      ['form-action', `${receiver}/join/${spot.id}`, 'lets the form not be sent to the receiver', 'damage'] as const,
      ['style-src-elem', 'inline', 'switches the form’s styles off', 'damage'] as const,
    ],
    'in-tags': [
      ['form-action', `${receiver}/join/${spot.id}`, 'lets the form not be sent to the receiver', 'damage'] as const,
      ['style-src-attr', 'inline', 'switches the form’s styles off', 'damage'] as const,
    ],
    script: [
      ['script-src-elem', `${receiver}/askbox.js`, 'keeps the script from loading', 'damage'] as const,
      ...(spot.kind === 'pop-up'
        ? [['script-src-elem', `${receiver}/pop-up.js`, 'keeps the pop-up from loading', 'damage'] as const]
        : []),
      ['connect-src', `${receiver}/form/${spot.id}.json`, 'keeps the script from fetching the form', 'damage'] as const,
    ],
    frame: [['frame-src', frameAddress(receiver, spot.id), 'keeps the frame from loading', 'damage'] as const],
    link: [],
    file: [],
    // Looked at as the script that it is.
    rule: [],
  }[code].map((need) => [...need])
  return needs.flatMap(([directive, target, what, weight]) => {
    const by = forbiddenBy(all, directive, target, address)
    return by === null
      ? []
      : [
          {
            code: 'policy' as const,
            weight,
            message: `The page’s policy (${by}) ${what}.`,
            mend:
              target === 'inline'
                ? 'Choose a script or a frame, or let the site’s policy permit styles in the page.'
                : `Add ${receiver} to ${by} in the site’s policy, or choose a link to its page.`,
            lines: inPage[0] ? linesOf(inPage[0]) : null,
          },
        ]
  })
}

import { evidence, type Failure, failure } from '#core/proof'
import type { FetchedPage } from './ports'

/** Why the page cannot be shown in a frame of the workshop; null when it can. CSP Level 3, section 6.4.2. */
export function framingProblem({ policies, frameOptions, address }: FetchedPage, workshop: string): string | null {
  const ancestors = policies
    .flatMap((policy) => policy.split(';'))
    .map((directive) => directive.trim().split(/\s+/))
    .filter(([name]) => name?.toLowerCase() === 'frame-ancestors')
  for (const [, ...sources] of ancestors) {
    const isAllowed = sources.some(
      (source) => source === '*' || source === workshop || (source === "'self'" && originOf(address) === workshop),
    )
    if (!isAllowed) return 'The page forbids being shown in a frame (frame-ancestors).'
  }
  // Where the policy says, the older header does not count.
  if (ancestors.length === 0 && frameOptions.trim() !== '')
    return `The page forbids being shown in a frame (X-Frame-Options: ${frameOptions.trim()}).`
  return null
}

export function frameForbidden({ address, frameOptions, policies }: FetchedPage, happened: string): Failure {
  return failure(
    'frame-forbidden',
    'settings',
    {
      expected: 'The form may be shown in a frame of the site.',
      happened: happened.replace('The page forbids', 'It forbids'),
      cause:
        'Something before the receiver adds that header to all that it hands out; the receiver itself allows frames.',
      mend: 'Take the header away for addresses that begin with /frame/, or choose another code.',
    },
    evidence('response', [address, frameOptions, ...policies].join('\n')),
  )
}

export function originOf(address: string): string {
  try {
    return new URL(address).origin
  } catch {
    return ''
  }
}

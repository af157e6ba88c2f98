import type { SiteKind } from './profiles'

/** What sites are built with, described by kind. */
export const siteKinds: readonly { kind: SiteKind; name: string }[] = [
  { kind: 'self-hosted-blog', name: 'Self-hosted blog' },
  { kind: 'block-editor-blog', name: 'Self-hosted blog with a block editor' },
  { kind: 'builder-with-head', name: 'Hosted builder that takes code' },
  { kind: 'builder-without-code', name: 'Hosted builder that takes no code' },
  { kind: 'static-pages', name: 'Static pages' },
  { kind: 'other', name: 'Something else' },
]

import type { SiteKind } from './site'

/** Kinds of site on which plain code works, described by kind. */
export const siteKinds: readonly { kind: SiteKind; name: string }[] = [
  { kind: 'self-hosted-blog', name: 'Self-hosted blog' },
  { kind: 'block-editor-blog', name: 'Self-hosted blog with a block editor' },
  { kind: 'static-pages', name: 'Static pages' },
  { kind: 'other', name: 'Something else' },
]

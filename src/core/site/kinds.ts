import type { SiteKind } from './profiles'

/** What sites are built with, described by kind. */
export const siteKinds: readonly { kind: SiteKind; name: string }[] = [
  { kind: 'self-hosted-blog', name: 'A blog on its own web space' },
  { kind: 'block-editor-blog', name: 'A blog on its own web space, edited in blocks' },
  { kind: 'builder-with-head', name: 'A website builder that takes code' },
  { kind: 'builder-without-code', name: 'A website builder that takes no code' },
  { kind: 'static-pages', name: 'Uploaded files' },
  { kind: 'other', name: 'Something else' },
]

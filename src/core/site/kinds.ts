import type { SiteKind } from './site'

export interface SiteKindFacts {
  kind: SiteKind
  name: string
  /** Where the plain code goes and what to do there, one action a step. */
  steps: string[]
}

/** Kinds of site on which plain code works, described by kind. Common practice, no published source. */
export const siteKinds: readonly SiteKindFacts[] = [
  {
    kind: 'self-hosted-blog',
    name: 'Self-hosted blog',
    steps: [
      'Open the post in the blog’s editor and go to the place for HTML.',
      'Paste the whole code there, and nothing else into that place.',
      'Save the post, then open it as a visitor would.',
    ],
  },
  {
    kind: 'block-editor-blog',
    name: 'Self-hosted blog with a block editor',
    steps: [
      'Open the page in the editor and add a block for custom HTML where the form should stand.',
      'Paste the whole code into that block. The editor may show the code instead of the form: that is fine.',
      'Update the page, then open it as a visitor would.',
    ],
  },
  {
    kind: 'static-pages',
    name: 'Static pages',
    steps: [
      'Open the page’s HTML file and find the place in its body where the form should stand.',
      'Paste the whole code there.',
      'Upload the file, then open the page.',
    ],
  },
  {
    kind: 'other',
    name: 'Something else',
    steps: [
      'Find where the site’s builder takes HTML or custom code for the body of a page.',
      'Paste the whole code there.',
      'Save or publish the page, then open it as a visitor would.',
    ],
  },
]

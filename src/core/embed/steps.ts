import { siteProfiles, type SiteKind } from '#core/site'
import type { CodeKind, SpotKind } from '#core/spot'

type Within = Exclude<SpotKind, 'landing'>

/** Where the place for code is found, by what the site is built with and where the form will sit. Common practice, no published source. */
const whereCodeGoes: Record<SiteKind, Record<Within, string>> = {
  'self-hosted-blog': {
    inline: 'Open the post in the blog’s editor and go to the place for HTML.',
    'after-post': 'Open the part below every post in the blog’s design and go to its place for HTML.',
    sidebar: 'Open the side column in the blog’s editor and go to its place for HTML. It shows beside every post.',
    footer: 'Open the part at the foot of every page in the blog’s design and go to its place for HTML.',
  },
  'block-editor-blog': {
    inline: 'Open the page in the editor and add a block for custom HTML where the form should stand.',
    'after-post':
      'Open the part below every post where the blog’s design is set up, and add a block for custom HTML there.',
    sidebar: 'Open the side column where the blog’s design is set up, and add a block for custom HTML there.',
    footer: 'Open the foot of the page where the blog’s design is set up, and add a block for custom HTML there.',
  },
  'builder-with-head': {
    inline: 'Open the page in the builder and add an element for custom HTML where the form should stand.',
    'after-post': 'Open the layout that all posts share and add an element for custom HTML at its end.',
    sidebar: 'Open the layout with the side column and add an element for custom HTML in it.',
    footer: 'Open the footer in the builder and add an element for custom HTML there.',
  },
  'builder-without-code': {
    inline: 'Open the page in the builder and go to where the form should be asked for.',
    'after-post': 'Open the layout that all posts share and go to its end.',
    sidebar: 'Open the layout with the side column and go into it.',
    footer: 'Open the footer in the builder.',
  },
  'static-pages': {
    inline: 'Open the page’s HTML file and find the place in its body where the form should stand.',
    'after-post':
      'Find the end of the post’s text in the HTML that the posts share, or in each post that should have the form.',
    sidebar: 'Find the side column in the HTML that the pages share, or in each page that should have the form.',
    footer: 'Find the foot of the page in the HTML that the pages share, or in each page that should have the form.',
  },
  other: {
    inline: 'Find where the site’s builder takes HTML or custom code for the body of a page.',
    'after-post': 'Find where the site’s builder takes HTML or custom code for the end of every post.',
    sidebar: 'Find where the site’s builder takes HTML or custom code for the side column.',
    footer: 'Find where the site’s builder takes HTML or custom code for the foot of every page.',
  },
}

const pasting: Record<SiteKind, string> = {
  'self-hosted-blog': 'Paste the whole code there, and nothing else into that place.',
  'block-editor-blog':
    'Paste the whole code into that block. The editor may show the code instead of the form: that is fine.',
  'builder-with-head':
    'Take out the sample code that the builder puts there, and paste the whole code. While you edit, the builder shows a notice in its place: that is fine.',
  'builder-without-code': 'Paste the whole code there.',
  'static-pages': 'Paste the whole code there.',
  other: 'Paste the whole code there.',
}

const saving: Record<SiteKind, string> = {
  'self-hosted-blog': 'Save, then open a page of the blog as a visitor would.',
  'block-editor-blog': 'Update, then open the page as a visitor would.',
  'builder-with-head': 'Publish, then open the page as a visitor would.',
  'builder-without-code': 'Publish, then open the page as a visitor would.',
  'static-pages': 'Upload what you changed, then open the page.',
  other: 'Save or publish, then open the page as a visitor would.',
}

/** How code gets onto a page, one action a step. */
export function pasteSteps(site: SiteKind, spot: Within, code: CodeKind): string[] {
  const { cacheMinutes } = siteProfiles[site]
  return [
    whereCodeGoes[site][spot],
    code !== 'link'
      ? pasting[site]
      : 'Write the words to press, mark them, choose the editor’s link, and paste the address. Where it takes HTML, paste the code of the link or button instead.',
    saving[site],
    ...(cacheMinutes > 0
      ? [
          `For up to ${cacheMinutes} minutes visitors may still see the page as it was; the builder may have a button that ends this.`,
        ]
      : []),
  ]
}

/** What an owner does after publishing: nothing for a page of ours, paste for the first time, or paste anew. */
export function afterPublishing(spots: readonly { kind: SpotKind; code: CodeKind }[], isFirst: boolean): string {
  const pasted = spots.filter(({ kind, code }) => kind !== 'landing' && (isFirst || code === 'plain'))
  const places: Record<Within, string> = {
    inline: 'the page',
    'after-post': 'the end of the posts',
    sidebar: 'the side column',
    footer: 'the foot of the page',
  }
  const [first] = pasted
  if (first === undefined) return spots.length === 0 ? 'It needs a spot to be seen.' : 'Its page shows it already.'
  const where = pasted.length > 1 ? 'its pages' : places[first.kind as Within]
  const page = pasted.length < spots.length ? ' Its own page shows it already.' : ''
  return isFirst
    ? `Next: copy the code and paste it into ${where}.${page}`
    : `Next: paste the new code into ${where}, in the place of the old.${page}`
}

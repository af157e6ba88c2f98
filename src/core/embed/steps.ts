import { profileOf, type Site, type SiteKind } from '#core/site'
import type { CodeKind, SpotKind } from '#core/spot'
import { isPastedAgain } from './advice'

type Within = Exclude<SpotKind, 'landing' | 'pop-up'>

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

/** Where code for the head goes: of every page, and of one. Common practice, no published source. */
const whereHeadIs: Record<SiteKind, { site: string; page: string }> = {
  'self-hosted-blog': {
    site: 'Open the blog’s settings and go to the place for code that goes on every page (often called “head”).',
    page: 'Open the page in the blog’s editor and go to the place for code in its head.',
  },
  'block-editor-blog': {
    site: 'Open where the blog’s design is set up and go to the place for code that goes on every page (often called “head”).',
    page: 'Open the page in the editor and go to the place for code in its head.',
  },
  'builder-with-head': {
    site: 'Open the site’s settings in the builder and go to the custom code for the head of all pages.',
    page: 'Open the page’s own settings in the builder and go to the custom code for its head.',
  },
  'builder-without-code': {
    site: 'Open the site’s settings in the builder and go to the custom code for the head.',
    page: 'Open the page’s own settings in the builder and go to the custom code for its head.',
  },
  'static-pages': {
    site: 'Open the HTML that all pages share, or each page that has a form, and find the end of its head.',
    page: 'Open the page’s HTML file and find the end of its head.',
  },
  other: {
    site: 'Find where the site’s builder takes code for the head of every page.',
    page: 'Find where the site’s builder takes code for the head of one page.',
  },
}

/** The builder's own way to have something on many pages at once. Common practice, no published source. */
const ownRepeats: Record<SiteKind, Record<'posts' | 'pages', string>> = {
  'self-hosted-blog': {
    posts:
      'What is put once into the part below every post, in the blog’s design, stands below all posts, new ones too.',
    pages: 'What is put once into the part at the foot of every page stands on all of them.',
  },
  'block-editor-blog': {
    posts:
      'Open the layout for single posts where the blog’s design is set up, and put it at its end once: it stands below all posts, new ones too.',
    pages: 'Open the part for the foot where the blog’s design is set up, and put it there once.',
  },
  'builder-with-head': {
    posts:
      'Open the layout that all posts share and put it at its end once. Without such a layout, make it a part that repeats, and put that part onto each post.',
    pages: 'Open the footer in the builder and put it there once: it stands on all pages.',
  },
  'builder-without-code': {
    posts:
      'Open the layout that all posts share and put the link at its end once. Without such a layout, keep the link as a saved part, and put that part onto each post.',
    pages: 'Open the footer in the builder and put the link there once: it stands on all pages.',
  },
  'static-pages': {
    posts:
      'Put it once into the file that all posts are made from. Where each post is a file of its own, it goes into each.',
    pages:
      'Put it once into the foot that all pages are made from. Where each page is a file of its own, it goes into each.',
  },
  other: {
    posts:
      'Look for a layout that all posts share, or for a part that repeats: what is put there once stands below all of them.',
    pages: 'Look for a foot that all pages share: what is put there once stands on all of them.',
  },
}

/** How a site that takes no rule has a form below each post, or on every page, with one pasting; none where a rule works. */
export function repeatSteps(site: Pick<Site, 'kind' | 'profile'>): string[] {
  return profileOf(site).siteHead ? [] : Object.values(ownRepeats[site.kind])
}

/** Where the head's code goes that a script or a pop-up needs. */
export function headStep(site: SiteKind, of: 'site' | 'page'): string {
  return whereHeadIs[site][of]
}

const pasting: Record<SiteKind, string> = {
  'self-hosted-blog': 'Paste the whole code there, and nothing else into that place.',
  'block-editor-blog': 'Paste the whole code into that block.',
  'builder-with-head': 'Take out the sample code that the builder puts there, and paste the whole code.',
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
export function pasteSteps(site: Pick<Site, 'kind' | 'profile'>, spot: Within | 'pop-up', code: CodeKind): string[] {
  const { kind } = site
  const { cacheMinutes, visualEditorDamages, whileEditing, siteHead } = profileOf(site)
  if (code === 'rule')
    return [
      headStep(kind, 'site'),
      'Paste the shared line there, once for the whole site. Where it stands already, nothing is pasted.',
      saving[kind],
    ]
  const isByHand = code === 'link'
  const isInHead = spot === 'pop-up' && code === 'script'
  return [
    isInHead
      ? headStep(kind, siteHead ? 'site' : 'page')
      : spot === 'pop-up'
        ? whereCodeGoes[kind].inline
        : whereCodeGoes[kind][spot],
    isByHand
      ? 'Write the words to press, mark them, choose the editor’s link, and paste the address. Where it takes HTML, paste the code of the link or button instead.'
      : isInHead
        ? 'Paste the pop-up’s code there, below what stands in it.'
        : pasting[kind],
    ...(!isByHand && !isInHead && visualEditorDamages
      ? ['Paste it in the place for HTML only: among the words, the editor would change it.']
      : []),
    ...(!isByHand && !isInHead && whileEditing !== 'form'
      ? [
          whileEditing === 'notice'
            ? 'While you edit, a notice stands in its place: that is fine.'
            : 'The editor may show the code instead of the form: that is fine.',
        ]
      : []),
    saving[kind],
    ...(cacheMinutes > 0
      ? [
          `For up to ${cacheMinutes} minutes visitors may still see the page as it was; the builder may have a button that ends this.`,
        ]
      : []),
  ]
}

/** What an owner does after publishing: nothing for a page of ours, paste for the first time, or paste anew. */
export function afterPublishing(
  spots: readonly { kind: SpotKind; code: CodeKind }[],
  isFirst: boolean,
  waits: string | null = null,
): string {
  if (waits !== null) return `It is kept for later. ${waits}`
  const pasted = spots.filter(
    ({ kind, code }) => kind !== 'landing' && code !== 'rule' && (isFirst || isPastedAgain(code)),
  )
  const places: Record<Exclude<SpotKind, 'landing'>, string> = {
    'pop-up': 'the head of the page',
    inline: 'the page',
    'after-post': 'the end of the posts',
    sidebar: 'the side column',
    footer: 'the foot of the page',
  }
  const [first] = pasted
  if (first === undefined)
    return spots.length === 0
      ? 'It needs a spot to be seen.'
      : spots.every(({ kind }) => kind === 'landing')
        ? 'Its page shows it already.'
        : spots.every(({ code }) => code === 'rule')
          ? 'Its rule puts it onto the pages; nothing has to be pasted.'
          : 'Where its code stands it shows by itself; nothing has to be pasted again.'
  const where = pasted.length > 1 ? 'its pages' : places[first.kind as keyof typeof places]
  const page = spots.some(({ kind }) => kind === 'landing') ? ' Its own page shows it already.' : ''
  return isFirst
    ? `Next: copy the code and paste it into ${where}.${page}`
    : `Next: paste the new code into ${where}, in the place of the old.${page}`
}

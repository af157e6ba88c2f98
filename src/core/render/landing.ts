import { SHIPPED_FONT_PATH } from '#core/look'
import { plainText } from '#core/text'
import { textsOf } from '#core/texts'
import type { FormState } from './field'
import { askingParts, formElement, renderPicture, renderQuote, renderVideo } from './form'
import { element, type Node } from './node'
import { documentOf, type Page } from './document'
import type { WayBack } from './way-back'
import type { PictureUse } from '#core/picture'
import type { PlacedForm } from './placed'
import { richNode } from './rich'
import { settingsOf } from './wire'
import { landingStyles } from './landing-styles'

export interface LandingOptions {
  /** Whether the visitors' script makes it answer in place. */
  withScript?: boolean
  /** Where it is found, readable where its owner made it so. */
  address?: string
  /** The site that it belongs to, and that site's privacy notice. */
  site?: WayBack | null
  privacy?: string | null
}

/**
 * The form as a page of its own: full-width sections around it, each there only when it says something.
 * One column on phones. Where scripts run, `askbox.js` makes it answer in place; without it, it is plain.
 */
export function landingPage(
  placed: PlacedForm,
  state: FormState = { values: {}, errors: {} },
  {
    withScript = true,
    address = `${placed.receiver}/page/${placed.spot}`,
    site = null,
    privacy = null,
  }: LandingOptions = {},
): Page {
  const { content } = placed
  const { words, page } = content
  const options = { withScript, address, site, privacy }
  const sections: (Node | false)[] = [
    opening(placed, state, options),
    section('points', richNode(words.points, 'askbox-points')),
    section('story', richNode(words.after, 'askbox-after')),
    section('video', content.video !== null && renderVideo(content.video, placed.showsNoVideo)),
    section('quote', renderQuote(content)),
  ]
  return documentOf({
    title: page.title || words.heading || 'Sign up',
    language: content.language,
    isListed: true,
    css: landingStyles(placed, address),
    head: headOf(placed, options),
    body: [element('main', {}, ...sections), footer(placed, options)].filter((node) => node !== false),
  })
}

function headOf(placed: PlacedForm, { withScript, address, site }: Required<LandingOptions>): (Node | false)[] {
  const { content, receiver } = placed
  const { words, page, look, illustration } = content
  const title = page.title || words.heading || 'Sign up'
  const description = page.description || plainText(words.introduction).slice(0, 200)
  const share = pictureAddress(placed, page.sharePicture ?? illustration?.picture ?? null)
  const icon = pictureAddress(placed, page.icon)
  return [
    description !== '' && element('meta', { name: 'description', content: description }),
    element('meta', { property: 'og:type', content: 'website' }),
    element('meta', { property: 'og:title', content: title }),
    site !== null && element('meta', { property: 'og:site_name', content: site.name }),
    description !== '' && element('meta', { property: 'og:description', content: description }),
    element('meta', { property: 'og:url', content: address }),
    share !== false && element('meta', { property: 'og:image', content: share }),
    share !== false && element('meta', { name: 'twitter:card', content: 'summary_large_image' }),
    element('link', { rel: 'canonical', href: address }),
    icon !== false && element('link', { rel: 'icon', href: icon }),
    // With it, words stand in their own font from the start, and nothing jumps when it comes.
    look.type.font === 'shipped' &&
      element('link', {
        rel: 'preload',
        as: 'font',
        type: 'font/woff2',
        href: `${receiver}${SHIPPED_FONT_PATH}`,
        crossorigin: true,
      }),
    withScript && element('script', { src: `${receiver}/askbox.js`, defer: true }),
  ]
}

/** What is seen first: the picture, who asks and for what, and the form. */
function opening(placed: PlacedForm, state: FormState, { withScript, site }: Required<LandingOptions>): Node {
  const { content } = placed
  const { words, page, look, illustration } = content
  const { place } = look.picture
  const picture = illustration === null ? false : renderPicture(placed)
  const icon = pictureAddress(placed, page.icon)
  const logo = icon !== false && element('img', { src: icon, alt: '', width: '28', height: '28' })
  const settings = () => JSON.stringify(settingsOf(content, placed.answers))
  return element(
    'section',
    { class: `first ${picture === false ? 'alone' : `picture-${place}`}` },
    (place === 'behind' || place === 'start') && picture,
    element(
      'div',
      { class: 'opening' },
      place === 'above' && picture,
      site !== null && element('p', { class: 'from' }, logo, site.name),
      words.heading !== '' && element('h1', { class: 'askbox-heading' }, words.heading),
      richNode(words.introduction, 'askbox-introduction'),
    ),
    element(
      'div',
      { class: 'asking' },
      formElement(placed, state, [
        withScript && element('script', { type: 'application/json', class: 'askbox-settings' }, settings()),
        ...askingParts(placed, state),
      ]),
    ),
    place === 'end' && picture,
  )
}

function footer({ content }: PlacedForm, { site, privacy }: Required<LandingOptions>): Node | false {
  const { privacy: words } = textsOf(content.language, content.texts)
  return (
    (site !== null || privacy !== null) &&
    element(
      'footer',
      {},
      site !== null && element('a', { href: site.address }, site.name),
      privacy !== null && element('a', { href: privacy }, words),
    )
  )
}

function pictureAddress({ pictureAddress, receiver }: PlacedForm, use: PictureUse | null): string | false {
  return use !== null && (pictureAddress?.(use) ?? `${receiver}/picture/${use.id}`)
}

function section(name: string, inner: Node | false): Node | false {
  return inner !== false && element('section', { class: name }, element('div', { class: 'inner' }, inner))
}

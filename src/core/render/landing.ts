import { fontStack, SHIPPED_FONT_PATH } from '#core/look'
import { plainText } from '#core/text'
import { textsOf } from '#core/texts'
import type { FormState } from './field'
import { askingParts, formElement, renderPicture, renderQuote, renderVideo } from './form'
import { element, type Node } from './node'
import { documentOf, type Page, type WayBack } from './page'
import type { PlacedForm } from './placed'
import { richNode } from './rich'
import { settingsOf } from './wire'
import { customRulesAround } from './custom-rules'
import { ownHeading, ownTextRules } from './word-rules'

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
  const { content, receiver } = placed
  const { words, page, look, illustration } = content
  const picture = illustration === null ? false : renderPicture(placed)
  const description = page.description || plainText(words.introduction).slice(0, 200)
  const title = page.title || words.heading || 'Sign up'
  const pictureOf = (use: typeof page.icon) =>
    use !== null && (placed.pictureAddress?.(use) ?? `${receiver}/picture/${use.id}`)
  const share = pictureOf(page.sharePicture ?? illustration?.picture ?? null)
  const icon = pictureOf(page.icon)
  const { place } = look.picture

  return documentOf({
    title,
    language: content.language,
    isListed: true,
    css: landingStyles(placed, address),
    head: [
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
    ],
    body: [
      element(
        'main',
        {},
        element(
          'section',
          { class: `first ${picture === false ? 'alone' : `picture-${place}`}` },
          (place === 'behind' || place === 'start') && picture,
          element(
            'div',
            { class: 'opening' },
            place === 'above' && picture,
            words.heading !== '' && element('h1', { class: 'askbox-heading' }, words.heading),
            richNode(words.introduction, 'askbox-introduction'),
          ),
          element(
            'div',
            { class: 'asking' },
            formElement(placed, state, [
              withScript &&
                element(
                  'script',
                  { type: 'application/json', class: 'askbox-settings' },
                  JSON.stringify(settingsOf(content, placed.answers)),
                ),
              ...askingParts(placed, state),
            ]),
          ),
          place === 'end' && picture,
        ),
        section('points', richNode(words.points, 'askbox-points')),
        section('story', richNode(words.after, 'askbox-after')),
        section('video', content.video !== null && renderVideo(content.video, placed.showsNoVideo)),
        section('quote', renderQuote(content)),
      ),
      (site !== null || privacy !== null) &&
        element(
          'footer',
          {},
          site !== null && element('a', { href: site.address }, site.name),
          privacy !== null && element('a', { href: privacy }, textsOf(content.language, content.texts).privacy),
        ),
    ].filter((node) => node !== false),
  })
}

function section(name: string, inner: Node | false): Node | false {
  return inner !== false && element('section', { class: name }, element('div', { class: 'inner' }, inner))
}

function landingStyles({ content, receiver }: PlacedForm, address: string): string {
  const { look, video } = content
  const { background, text, button } = look.colours
  const ground =
    look.ground.kind === 'gradient'
      ? `linear-gradient(${look.ground.angle}deg,${background},${look.ground.to})`
      : background
  const font = look.type.font === 'site' ? 'system-ui,sans-serif' : fontStack(look.type.font)
  // Over a picture, fields need a ground of their own.
  const isFramed =
    look.shadow !== 'none' ||
    look.border.width > 0 ||
    (content.illustration !== null && look.picture.place === 'behind')
  return [
    look.type.font === 'shipped'
      ? `@font-face{font-family:"Ask Box Sans";src:url(${receiver}${SHIPPED_FONT_PATH}) format("woff2");font-weight:200 900;font-display:optional}`
      : '',
    '*{box-sizing:border-box}',
    `body{--button:${button};--ground:${background};margin:0;background:${background};color:${text};font:${look.type.weight} clamp(1rem,.94rem + .25vw,1.15rem)/1.6 ${font};overflow-wrap:anywhere}`,
    'section{padding:clamp(2rem,5vw,4.5rem) clamp(1rem,5vw,4rem)}',
    // Everything begins at the top: what is centred moves while the page arrives.
    `.first{position:relative;isolation:isolate;display:grid;gap:1.5rem;align-content:start;margin:0 auto;text-align:${look.align}}`,
    `body{background:${ground}}`,
    '.first>*,.inner{width:100%;max-width:38rem;margin-inline:auto;min-width:0}',
    // Without a picture, words and form are one column on a ground of their own.
    '.alone,.picture-behind{padding-block:clamp(2.5rem,9vh,7rem)}',
    '.alone{border-block-start:.375rem solid var(--button);background:color-mix(in srgb,var(--button) 7%,var(--ground))}',
    // With a picture at the side: two columns, the picture in one from edge to edge, words above form in the other. On phones one column, in source order.
    '.first>.askbox-picture{max-width:none}.first>.askbox-picture img{display:block;width:100%;object-fit:cover}',
    '.picture-start,.picture-end{padding:0 0 clamp(2rem,5vw,4.5rem)}.picture-end{padding-block-start:clamp(2rem,5vw,4.5rem);padding-block-end:0}',
    '.picture-start>.opening,.picture-start>.asking,.picture-end>.opening,.picture-end>.asking{padding-inline:clamp(1rem,4vw,4rem);max-width:44rem}.first>.askbox-picture img{max-height:60vh}',
    '@media(min-width:62rem){.picture-start,.picture-end{grid-template:auto auto 1fr/minmax(0,1fr) minmax(0,1fr);gap:1.5rem 0;padding:0}.picture-start>.askbox-picture,.picture-end>.askbox-picture{grid-row:1/-1;position:relative;min-height:min(84vh,46rem)}.first>.askbox-picture img{position:absolute;inset:0;height:100%;max-height:none}.picture-start>.askbox-picture{grid-column:1}.picture-end>.askbox-picture{grid-column:2}.picture-start>.opening,.picture-start>.asking{grid-column:2;margin-inline:0 auto}.picture-end>.opening,.picture-end>.asking{grid-column:1;margin-inline:auto 0}.picture-start>.opening,.picture-end>.opening{grid-row:1;padding-block-start:clamp(2.5rem,11vh,8rem)}.picture-start>.asking,.picture-end>.asking{grid-row:2;padding-block-end:clamp(2.5rem,9vh,6rem)}}',
    `h1{margin:0 0 .4em;font-size:clamp(1.9rem,1.2rem + 3vw,${(look.type.headingSize / 100) * 1.35}rem);font-weight:${look.type.headingWeight};line-height:1.08;letter-spacing:-.012em;text-wrap:balance${ownHeading(look)}}`,
    'p{margin:0 0 1em;text-wrap:pretty}',
    '.opening .askbox-introduction{font-size:1.15em}.opening>:last-child,.opening>:last-child>:last-child{margin-bottom:0}',
    '.opening .askbox-picture img{display:block;width:100%;height:auto;margin-bottom:1.5rem;border-radius:8px}',
    `.askbox-behind{position:absolute;inset:0;z-index:-1;max-width:none!important;overflow:hidden}.askbox-behind img{display:block;width:100%;height:100%;object-fit:cover;opacity:${look.picture.strength / 100}}`,
    '.points,.video{border-block:1px solid color-mix(in srgb,currentColor 18%,transparent)}.points+.video{border-top:0}',
    '.points ul,.points ol{display:grid;grid-template-columns:repeat(auto-fit,minmax(min(100%,13rem),1fr));gap:1rem 2rem;max-width:none;margin:0;padding:0;list-style:none}.points .inner{max-width:66rem}',
    '.points li{padding-top:.75rem;border-top:3px solid var(--button);font-weight:600}',

    video === null
      ? ''
      : `.video iframe{display:block;width:100%;height:auto;aspect-ratio:${video.width}/${video.height};border:0;background:#0003}.video .inner{max-width:60rem}`,
    '.quote figure{margin:0}.quote blockquote{margin:0 0 .5em;font-size:clamp(1.25rem,1rem + 1.4vw,1.9rem);line-height:1.35;text-wrap:balance}.quote p{margin:0}',
    'a{color:inherit}:focus-visible{outline:3px solid;outline-offset:2px}',
    // The form's card lines up with the words, unless it has a border or a background of its own.
    `.asking .askbox-card:not(#a#b){max-width:none!important;margin:0!important${isFramed ? '' : ';padding:0!important;background:none!important'}}`,
    ...ownTextRules(content).map(([selector, declarations]) => `main:not(#a) ${selector}{${declarations}}`),
    'footer{display:flex;flex-wrap:wrap;justify-content:center;gap:.25rem 1.5rem;padding:1.5rem 1rem 2rem;font-size:.9em}',
    '@media(max-width:480px){section{padding-inline:1rem}}',
    // On paper: the words, whole and black, and where the form is filled in.
    `@media print{body{background:#fff;color:#000}.first{min-height:0}.asking,.video,.askbox-behind{display:none}section{padding:1em 0;break-inside:avoid}main::after{content:${JSON.stringify(address).replaceAll('<', '\\3c ')};font-weight:600}}`,
    ...customRulesAround(look.custom.rules, 'main:not(#a#b)'),
  ]
    .filter(Boolean)
    .join('\n')
}

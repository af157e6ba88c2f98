import { type FormContent, sampleAnswers } from '#core/form'
import { mix } from '#core/look'
import type { FormId, SpotId } from '#core/ids'
import type { PictureUse } from '#core/picture'
import type { PopUp } from '#core/spot'
import {
  answerPage,
  element,
  formStyles,
  formWithSpace,
  framePage,
  type FormState,
  knownNode,
  landingPage,
  meddlesomeStyles,
  type Node,
  type Page,
  type PlacedForm,
  popUpCardStyles,
  previewPage,
  renderForm,
  type WayBack,
} from '#core/render'
import { fieldErrors } from '#core/signup'
import { textsOf } from '#core/texts'

/** Ids for a picture of a form that has no spot yet. */
const NO_SPOT = 'preview' as SpotId

/** As which visitor the form is looked at. */
export type Visitor = 'new' | 'everyday' | 'long' | 'errors' | 'known'
/** What stands around it: nothing, where it is a page of its own, or a page in the site's colours, a white or a dark one. */
export type Surroundings = 'none' | 'site' | 'light' | 'dark'

export interface Scene {
  content: FormContent
  form: FormId
  /** Where pictures are found in this browser. */
  pictureAddress: (picture: PictureUse) => string
  visitor?: Visitor
  surroundings?: { background: string; text: string }
  isMeddlesome?: boolean
  isLanding?: boolean
  /** Of a landing page: the site whose name it bears. */
  site?: WayBack | null
  /** Where on the page it opens, with its cross; null where it stands within the page. */
  popUp?: PopUp['position'] | null
}

/** The form as it stands on a page: with its own outer space, between lines of the page's text. */
export function scenePage(scene: Scene): Page {
  const { content, visitor = 'new', surroundings = { background: 'transparent', text: '#222222' } } = scene
  if (visitor === 'known') return answerPage(content.answers['already-on-list'], content, null, { sign: 'tick' })
  const placed = placedIn(scene)
  const state = stateOf(content, visitor)
  if (scene.isLanding) return wholePage(landingPage(placed, state, { withScript: false, site: scene.site ?? null }))
  if (scene.popUp) return popUpPage(placed, state, surroundings, scene.popUp)
  const css = `body{background:${surroundings.background};color:${surroundings.text}}${scene.isMeddlesome ? meddlesomeStyles : ''}`
  return previewPage(
    [
      element(
        'div',
        { id: 'page' },
        ...greyLines(2, surroundings.text),
        renderForm(placed, state),
        ...greyLines(2, surroundings.text),
      ),
    ],
    '14px 0',
    css,
  )
}

/** As a pop-up: a card over a page that it darkens, or in a corner of one that stays as it is. */
function popUpPage(
  placed: PlacedForm,
  state: FormState,
  { background, text }: { background: string; text: string },
  position: PopUp['position'],
): Page {
  const { look } = placed.content
  const isInCorner = position !== 'middle'
  const ground = isInCorner ? background : CSS_COLOUR.test(background) ? mix('#000000', background, 0.6) : '#666666'
  // In a corner, over the ends of the page's last lines.
  const room = { middle: '24px auto', 'bottom-end': '-44px 0 0 auto', 'bottom-start': '-44px auto 0 0' }[position]
  const css = [
    `body{background:${ground};color:${text}}`,
    `.over{position:relative;box-sizing:border-box;max-width:${isInCorner ? 384 : 544}px;margin:${room};border-radius:8px;overflow:hidden;background:${look.colours.background};box-shadow:0 12px 48px #0006}`,
    popUpCardStyles(look),
  ].join('')
  const cross = element('span', { class: 'close', 'aria-hidden': 'true' }, '×')
  return previewPage(
    [
      element(
        'div',
        { id: 'page' },
        ...greyLines(isInCorner ? 6 : 2, text),
        element('div', { class: 'over' }, cross, renderForm(placed, state)),
        ...(isInCorner ? [] : greyLines(2, text)),
      ),
    ],
    '14px',
    css,
  )
}
const CSS_COLOUR = /^#[0-9a-f]{6}$/i

/** The form alone, on transparent ground. */
export function formAlone(scene: Scene): Page {
  return previewPage(
    [renderForm(placedIn(scene))],
    scene.content.look.dress === 'site' ? '12px' : '0',
    '.askbox-card{margin:0!important;max-width:none!important}',
  )
}

/** What somebody sees in the form's place who signed up before; null where that is the form. */
export function greetingAlone(scene: Scene): Page | null {
  const { known } = scene.content
  const placed = placedIn(scene)
  return known === undefined ? null : previewPage([knownNode(placed, known)], '16px', formStyles(placed))
}

/** The form in the text of some page. */
export function formInText(scene: Scene): Page {
  if (scene.isLanding)
    return wholePage(landingPage(placedIn(scene), undefined, { withScript: false, site: scene.site ?? null }))
  const title = element('div', { style: 'height:24px;width:55%;margin:0 0 22px;border-radius:6px;background:#b9b5ab' })
  return previewPage(
    [
      title,
      ...greyLines(3, '#222222'),
      element('div', { style: 'margin:22px 0' }, renderForm(placedIn(scene))),
      ...greyLines(3, '#222222'),
    ],
    '24px',
  )
}

/** The form as a frame on a site shows it. */
export function formInFrame(scene: Scene): Page {
  return framePage(placedIn(scene), { values: {}, errors: {} })
}

/** The form in a place of a page, with its own outer space; `font` is the site's own `font-family`, or nothing. */
export function formInPlace(scene: Scene, font: string): Page {
  return formWithSpace(placedIn(scene), font)
}

function placedIn({ content, form, pictureAddress }: Scene): PlacedForm {
  return { content, form, version: 1, spot: NO_SPOT, receiver: '', pictureAddress, showsNoVideo: true }
}

/** Answers typed, and what is wrong with them, by the rules that visitor's browser and receiver keep to as well. */
function stateOf({ fields, language, texts }: FormContent, visitor: Visitor): FormState {
  if (visitor === 'everyday' || visitor === 'long') return { values: sampleAnswers(fields, visitor), errors: {} }
  if (visitor !== 'errors') return { values: {}, errors: {} }
  const values = { email: 'wren at post.example' }
  return {
    values,
    errors: Object.fromEntries(
      fieldErrors(fields, values, textsOf(language, texts)).map(({ field, message }) => [field, message]),
    ),
  }
}

/** A page shown in full, without a window to scroll it in: what it makes as high as the window is as in one of 800 px. */
export function wholePage(page: Page): Page {
  return withStyle(page, 'html{overflow:hidden}.first{min-height:min(624px,46rem)!important}')
}

/** A page with a style sheet more. */
export function withStyle({ children: [head, ...rest], ...page }: Page, css: string): Page {
  const { children, ...more } = head as Page
  return { ...page, children: [{ ...more, children: [...children, element('style', {}, css)] }, ...rest] }
}

/** Lines of some text: what stands around a form on its page. */
export function greyLines(count: number, colour: string): Node[] {
  return Array.from({ length: count }, (_, at) =>
    element('div', {
      style: `height:10px;margin:0 0 12px;border-radius:5px;background:${colour};opacity:.16;width:${at === count - 1 ? 62 : 97}%`,
    }),
  )
}

import { type FormContent, honeypotName } from '#core/form'
import type { FormId } from '#core/ids'
import { ON_OUR_PAGE } from '#core/signup'
import { saysNothing } from '#core/text'
import { directionOf, filledIn, type InterfaceTexts, textsOf } from '#core/texts'
import type { Video } from '#core/video'
import { directForm } from './direct'
import { type FormState, renderField } from './field'
import { type Element, element, type Node, toHtml } from './node'
import type { PlacedForm } from './placed'
import { richNode } from './rich'
import { formStyles, PHONE_WIDTH, scopeOf } from './styles'

const UNTOUCHED: FormState = { values: {}, errors: {} }

/**
 * The one renderer: pages, previews and code all show what this returns. A complete plain `<form>` that
 * works without scripts, in the element that wears its look.
 */
export function renderForm(placed: PlacedForm, state: FormState = UNTOUCHED): Element {
  const { content } = placed
  const { words, look } = content
  const picture = look.picture.place
  const told = [
    words.heading !== '' && element('h2', { class: 'askbox-heading' }, words.heading),
    richNode(words.introduction, 'askbox-introduction'),
    richNode(words.points, 'askbox-points'),
    content.video !== null && renderVideo(content.video, placed.showsNoVideo),
  ]
  const asked = askingParts(placed, state)
  const body = [
    ...(picture === 'above' ? [renderPicture(placed)] : []),
    ...(look.words === 'beside'
      ? [
          element(
            'div',
            { class: 'askbox-beside' },
            element('div', { class: 'askbox-told' }, ...told),
            element('div', { class: 'askbox-asked' }, ...asked),
          ),
        ]
      : [...told, ...asked]),
    renderQuote(content),
    richNode(words.after, 'askbox-after'),
  ]
  const isAside = content.illustration !== null && (picture === 'start' || picture === 'end')
  return formElement(placed, state, [
    ...(picture === 'behind' ? [renderPicture(placed)] : []),
    ...(isAside
      ? [
          element(
            'div',
            { class: `askbox-sides askbox-sides-${picture}` },
            renderPicture(placed),
            element('div', { class: 'askbox-body' }, ...body),
          ),
        ]
      : body),
  ])
}

/**
 * The form around whatever stands in it, after its styles, within an element that wears the look: within another form
 * browsers drop ours, and what is left then still looks like it. What visitors never see comes last.
 */
export function formElement(placed: PlacedForm, state: FormState, inner: (Node | null | false)[]): Element {
  const { content } = placed
  return element(
    'div',
    { class: `askbox-card ${scopeOf(placed.spot)}`, lang: content.language, dir: directionOf(content.language) },
    element('style', {}, formStyles(placed)),
    ownForm(placed, state, inner),
  )
}

function ownForm(placed: PlacedForm, state: FormState, inner: (Node | null | false)[]): Element {
  const { content } = placed
  const form = element(
    'form',
    {
      class: 'askbox',
      action: joinAddress(placed),
      method: 'post',
      'accept-charset': 'utf-8',
      ...(content.tellsAddress && { 'data-askbox-address': 'told' }),
    },
    ...inner,
    honeypot(placed.form, textsOf(content.language, content.texts)),
    element('input', { type: 'hidden', name: 'askbox-version', value: String(placed.version) }),
    state.isOnOurPage === true && element('input', { type: 'hidden', name: ON_OUR_PAGE, value: '1' }),
    ...Object.entries({ page: state.page, ...state.cameFrom, view: state.view }).map(
      ([name, value = '']) => value !== '' && element('input', { type: 'hidden', name: `askbox-${name}`, value }),
    ),
  )
  return content.direct === undefined ? form : directForm(form, content.direct)
}

/** The same with the form changed. */
export function withForm(card: Element, change: (form: Element) => Element): Element {
  return {
    ...card,
    children: card.children.map((child) => (typeof child !== 'string' && child.tag === 'form' ? change(child) : child)),
  }
}

function joinAddress({ receiver, spot }: PlacedForm): string {
  return `${receiver}/join/${spot}`
}

/** Note, fields, button and the small line below: common to all kinds of places. */
export function askingParts(placed: PlacedForm, state: FormState): Node[] {
  const { words } = placed.content
  return [
    richNode(words.note, 'askbox-note'),
    ...fieldRows(placed, state),
    richNode(words.small, 'askbox-small'),
  ].filter((node) => node !== false)
}

/** Several steps are several groups, one below the other; where scripts run, one is shown at a time. */
function fieldRows(placed: PlacedForm, state: FormState): Node[] {
  const { content } = placed
  const texts = textsOf(content.language, content.texts)
  const context = { scope: scopeOf(placed.spot), language: content.language, texts, state }
  const button = element(
    'button',
    {
      class: 'askbox-button',
      type: 'submit',
      // Within another form, the browser drops ours; the button keeps its address.
      formaction: joinAddress(placed),
      formmethod: 'post',
    },
    content.words.button,
  )
  const steps = [...new Set(content.fields.map((field) => field.step))].sort((one, other) => one - other)
  const rows = steps.map((step) =>
    content.fields.filter((field) => field.step === step).map((field) => renderField(field, context)),
  )
  if (rows.length === 1) return [element('div', { class: 'askbox-row' }, ...rows[0]!, button)]
  return rows.map((fields, at) =>
    element(
      'fieldset',
      { class: 'askbox-step' },
      element('legend', { class: 'askbox-step-name' }, filledIn(texts.step, { step: at + 1, steps: rows.length })),
      element('div', { class: 'askbox-row' }, ...fields, at === rows.length - 1 && button),
    ),
  )
}

export function renderPicture({
  content,
  receiver,
  pictureAddress = ({ id }) => `${receiver}/picture/${id}`,
}: PlacedForm): Node | false {
  const { illustration, look } = content
  if (illustration === null) return false
  const { picture, phonePicture, alternative, isDecoration } = illustration
  return element(
    'picture',
    { class: look.picture.place === 'behind' ? 'askbox-behind' : 'askbox-picture' },
    phonePicture !== null &&
      element('source', {
        media: `(max-width:${PHONE_WIDTH}px)`,
        srcset: pictureAddress(phonePicture),
        width: String(phonePicture.width),
        height: String(phonePicture.height),
      }),
    element('img', {
      src: pictureAddress(picture),
      alt: isDecoration ? '' : alternative,
      width: String(picture.width),
      height: String(picture.height),
      decoding: 'async',
    }),
  )
}

/** A frame that loads when it comes near, cannot reach the page around it, and says what it is. */
export function renderVideo(video: Video, showsNoVideo = false): Node {
  return element(
    'div',
    { class: 'askbox-video' },
    element('iframe', {
      ...(showsNoVideo ? { srcdoc: standsInForVideo(video) } : { src: video.address }),
      title: video.title || 'Video',
      loading: 'lazy',
      sandbox: 'allow-scripts allow-same-origin allow-presentation allow-popups',
      allow: 'fullscreen; picture-in-picture',
      referrerpolicy: 'strict-origin-when-cross-origin',
    }),
  )
}

function standsInForVideo({ title, address }: Video): string {
  const words = element(
    'p',
    { style: 'margin:0' },
    title || 'Video',
    element('br'),
    element('small', {}, new URL(address).host),
  )
  return toHtml(
    element(
      'body',
      {
        style:
          'margin:0;height:100vh;display:grid;place-content:center;text-align:center;background:#22242b;color:#fff;font:16px/1.5 system-ui,sans-serif',
      },
      words,
    ),
  )
}

export function renderQuote({ words }: FormContent): Node | false {
  if (saysNothing(words.quote)) return false
  return element(
    'figure',
    { class: 'askbox-quote' },
    element('blockquote', {}, richNode(words.quote, 'askbox-quoted')),
    words.quoteBy !== '' && element('figcaption', {}, words.quoteBy),
  )
}

/**
 * A field for programs only: moved out of sight by the styles, `inert` so that neither keyboard, assistive
 * technology nor autofill reaches it. Its words are for the case that a site strips all of that.
 */
function honeypot(form: FormId, texts: InterfaceTexts): Node {
  return element(
    'div',
    // Said three times over, because sites strip one or the other of them.
    { class: 'askbox-more', hidden: true, inert: true, 'aria-hidden': 'true', style: 'display:none' },
    element(
      'label',
      {},
      texts.leaveEmpty,
      element('input', { type: 'text', name: honeypotName(form), tabindex: '-1', autocomplete: 'off' }),
    ),
  )
}

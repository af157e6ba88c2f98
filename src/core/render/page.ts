import { css } from './css'
import { fontFace } from './font-face'
import type { Answer, AnswerCase, FormContent } from '#core/form'
import { fontStack, isDark, type Look, mix, plainLook } from '#core/look'
import { ownHeading } from './word-rules'
import { directionOf, filledIn, type Language, textsOf } from '#core/texts'
import type { FormState } from './field'
import { renderForm, withForm } from './form'
import { type Element, element, type Node, toHtml } from './node'
import type { PlacedForm } from './placed'
import type { WayBack } from './way-back'

/** An `html` element with all that is in it. */
export type Page = Element

/** The page a visitor is sent to after pressing the button: the answer's own words in the form's look. */
export function answerPage(
  answer: Pick<Answer, 'heading' | 'message'>,
  content: PageContent,
  wayBack: WayBack | null,
  more: {
    press?: Press | null
    /** A quiet button is an offer; the others are the page's main action. */
    links?: readonly { address: string; words: string; isQuiet?: boolean }[]
    sign?: AnswerSign | null
    tells?: FrameTells | null
  } = {},
): Page {
  const { look } = content
  const main = {
    plain: '',
    framed: 'main{border:2px solid var(--button)}',
    barred: 'main{border-inline-start:6px solid var(--button)}',
  }[look.result]
  const { press = null, links = [], sign = null, tells = null } = more
  return page(
    answer.heading,
    content,
    [main, sign === null ? '' : SIGN_STYLES, press === null && links.length === 0 ? '' : pressStyles(content)]
      .filter(Boolean)
      .join('\n'),
    [
      sign !== null && element('div', { class: `sign ${sign}`, 'aria-hidden': 'true' }),
      answer.heading !== '' && element('h1', {}, answer.heading),
      answer.message !== '' && element('p', {}, answer.message),
      ...links.map(({ address, words, isQuiet }) =>
        element('p', isQuiet ? {} : { class: 'gift' }, element('a', { href: address }, words)),
      ),
      press !== null && pressNode(press),
      wayBackNode(wayBack, content),
      tells !== null && frameScript(tells),
    ],
    // In a frame the page around it says whose it is.
    tells === null ? wayBack : null,
  )
}

/** What is drawn above an answer's words: a tick for what is done, a letter for what comes by mail, a cross for what is not. */
export type AnswerSign = 'tick' | 'letter' | 'cross'
export function signOf(one: AnswerCase): AnswerSign | null {
  switch (one) {
    case 'joined':
    case 'confirmed':
    case 'already-on-list':
    case 'message-sent':
      return 'tick'
    case 'confirm-first':
    case 'already-waiting':
      return 'letter'
    case 'not-possible':
      return 'cross'
    default:
      return null
  }
}

const SIGN_STYLES = css`
  .sign {
    position: relative;
    width: 3.25rem;
    height: 3.25rem;
    margin: 0 0 1.25rem;
    border: 2px solid var(--button);
    border-radius: 50%;
  }
  .sign::before,
  .sign::after {
    content: '';
    position: absolute;
    border: solid var(--button);
  }
  .tick::before {
    inset: 0.62rem auto auto 1.22rem;
    width: 0.62rem;
    height: 1.3rem;
    border-width: 0 0.22rem 0.22rem 0;
    transform: rotate(45deg);
  }
  .tick::after {
    display: none;
  }
  .cross::before,
  .cross::after {
    inset: 0.72rem auto auto 1.42rem;
    width: 0;
    height: 1.6rem;
    border-width: 0 0 0 0.22rem;
    transform: rotate(45deg);
  }
  .cross::after {
    transform: rotate(-45deg);
  }
  .letter::before {
    inset: 0.98rem 0.72rem 0.9rem;
    border-width: 2px;
    border-radius: 2px;
  }
  .letter::after {
    inset: 0.58rem auto auto 1.13rem;
    width: 0.85rem;
    height: 0.85rem;
    border-width: 0 2px 2px 0;
    transform: scaleY(0.7) rotate(45deg);
  }
`

/** Parts of a form that a page of ours takes its look from. */
export type PageContent = Pick<FormContent, 'look' | 'language' | 'texts'>

/** A button that posts to the receiver: only a press does it, never a link scanner. */
export interface Press {
  action: string
  words: string
  /** Sent along. */
  values?: Record<string, string>
  /** Whether it is the page's main action. */
  isMain: boolean
}

function pressNode({ action, words, values = {}, isMain }: Press): Node {
  return element(
    'form',
    { method: 'post', action, class: isMain ? 'press' : 'press quiet' },
    ...Object.entries(values).map(([name, value]) => element('input', { type: 'hidden', name, value })),
    element('button', { type: 'submit' }, words),
  )
}

function pressStyles({ look }: PageContent): string {
  const { button, buttonText, text } = look.colours
  const corner = look.button.corner
  return css`
    .press {
      margin: 1.5rem 0 0;
    }
    .press button,
    .gift a {
      box-sizing: border-box;
      display: inline-block;
      min-height: 48px;
      max-width: 100%;
      padding: 0.65rem 1.6rem;
      border: 2px solid ${button};
      border-radius: ${corner}px;
      background: ${button};
      color: ${buttonText};
      font: inherit;
      font-weight: 600;
      text-decoration: none;
      cursor: pointer;
    }
    .gift {
      margin: 1.25rem 0 0;
    }
    .press.quiet button {
      border-color: currentColor;
      background: none;
      color: ${text};
    }
  `
}

/** The form shown again after an answer that could not be taken: values kept, each error beside its field. */
export function formAgainPage(placed: PlacedForm, state: FormState, wayBack: WayBack | null): Page {
  const { content } = placed
  const texts = textsOf(content.language, content.texts)
  const errors = Object.values(state.errors).filter((error) => error !== undefined)
  const title = errors.length === 1 ? texts.checkAgain : texts.checkAgainSeveral
  return page(
    title,
    content,
    css`
      .askbox-card {
        max-width: none !important;
        margin: 0 !important;
        padding: 0 !important;
        border: 0 !important;
        box-shadow: none !important;
      }
      /* What needs another look is the answers: a picture over or behind them would be in the way. */
      .askbox-picture,
      .askbox-behind {
        display: none !important;
      }
      [role='alert'] {
        margin: 0 0 1.5rem;
        padding: 0.5rem 1rem;
        border-inline-start: 4px solid;
      }
      [role='alert'] h1 {
        margin: 0;
        font-size: 1.05rem;
      }
      [role='alert'] ul {
        margin: 0.25rem 0 0;
        padding-inline-start: 1.25rem;
      }
    `,
    [
      // One error stands beside its field and is not said twice; several are listed first.
      element(
        'div',
        { role: 'alert' },
        element('h1', {}, title),
        errors.length > 1 && element('ul', {}, ...errors.map((error) => element('li', {}, error))),
      ),
      renderForm(placed, state),
      wayBackNode(wayBack, content),
    ],
    wayBack,
  )
}

/** While the visitor's browser solves a puzzle; the script then sends all of it again. */
export function puzzlePage(
  content: PageContent,
  {
    action,
    script,
    puzzle,
    values,
    wayBack,
  }: {
    action: string
    script: string
    /** As JSON. */
    puzzle: string
    values: readonly (readonly [name: string, value: string])[]
    wayBack: WayBack | null
  },
): Page {
  const texts = textsOf(content.language, content.texts)
  return page(texts.oneMoment, content, 'progress{width:100%;accent-color:var(--button)}[hidden]{display:none}', [
    element('h1', {}, texts.oneMoment),
    element(
      'form',
      { method: 'post', action, 'data-askbox-puzzle': puzzle },
      ...values.map(([name, value]) => element('input', { type: 'hidden', name, value })),
    ),
    element(
      'div',
      { id: 'works' },
      element('p', {}, texts.smallSum),
      element('progress', { 'aria-label': texts.oneMoment }),
    ),
    element('p', { id: 'fails', role: 'alert', hidden: true }, texts.noSum),
    element('noscript', {}, element('style', {}, '#works{display:none}'), element('p', {}, texts.noSum)),
    wayBackNode(wayBack, content),
    element('script', { type: 'module', src: script }),
  ])
}

/**
 * The form alone, for a frame on the owner's site. It is sent within the frame; where an answer is a page of the owner's
 * own, in the whole window, so that no site is shown within itself.
 */
export function framePage(placed: PlacedForm, state: FormState, tells: FrameTells | null = null): Page {
  const { content } = placed
  const card = renderForm(placed, state)
  const leaves = Object.values(content.answers).some(({ show }) => show === 'address')
  return documentOf({
    title: content.words.heading || content.words.button,
    language: content.language,
    css: css`
      body {
        margin: 0;
        background: transparent;
        font:
          16px/1.6 system-ui,
          sans-serif;
      }
      .askbox-card {
        max-width: none !important;
        margin: 0 !important;
      }
    `,
    body: [
      leaves ? withForm(card, (form) => ({ ...form, attributes: { ...form.attributes, target: '_top' } })) : card,
      ...(tells === null ? [] : [frameScript(tells)]),
    ],
  })
}

/** Target of the messages of a page in a frame: the site's origin alone. */
export interface FrameTells {
  receiver: string
  spot: string
  origin: string
  /** On the answer's page: which answer it is. */
  outcome?: string
}

function frameScript({ receiver, spot, origin, outcome }: FrameTells): Node {
  return element('script', {
    type: 'module',
    src: `${receiver}/frame.js`,
    'data-spot': spot,
    'data-origin': origin,
    ...(outcome !== undefined && { 'data-outcome': outcome }),
  })
}

/** Answer to a form that its owner has closed: kind words in the form's look, and the way back. */
export function closedPage(content: FormContent, wayBack: WayBack | null): Page {
  const { closed } = textsOf(content.language, content.texts)
  return page(closed, content, '', [element('h1', {}, closed), wayBackNode(wayBack, content)], wayBack)
}

/** A plain page that says one thing: what happened, and what to do. For visitors who met a dead end. */
export function noticePage(title: string, message: string): Page {
  return page(title, { look: plainLook, language: 'en' }, '', [element('h1', {}, title), element('p', {}, message)])
}

/**
 * The form alone with the space that it keeps around it, to see how high its place will be.
 *
 * @param font the site's own `font-family`, or nothing
 */
export function formWithSpace(placed: PlacedForm, font = ''): Page {
  const family = font.replace(/[^\w\s,"'-]/g, '')
  return previewPage(
    [element('div', { style: 'display:flow-root' }, renderForm(placed))],
    '0',
    family === '' ? '' : `body{font-family:${family}}`,
  )
}

/** A bare page around a form for the workshop's pictures; `around` is what the surroundings say. */
export function previewPage(body: Node[], padding: string, around = ''): Page {
  return documentOf({
    title: 'Preview',
    css: css`
      html {
        overflow: hidden;
      }
      body {
        margin: 0;
        padding: ${padding};
        background: transparent;
        font:
          16px/1.6 system-ui,
          sans-serif;
        color: #222;
      }
      ${around}
    `,
    body,
  })
}

function wayBackNode(wayBack: WayBack | null, { language, texts }: PageContent): Node | false {
  return (
    wayBack !== null &&
    element(
      'p',
      { class: 'back' },
      element('a', { href: wayBack.address }, filledIn(textsOf(language, texts).backTo, { place: wayBack.name })),
    )
  )
}

/** @param from the site that it belongs to: it stands on that site's ground, under its name */
function page(
  title: string,
  { look, language }: { look: Look; language: Language },
  more: string,
  body: (Node | false)[],
  from: WayBack | null = null,
): Page {
  const { background, text, button } = look.colours
  const font = look.type.font === 'site' ? 'system-ui,sans-serif' : fontStack(look.type.font)
  const own = mix(isDark(background) ? background : button, '#ffffff', 0.1)
  const { background: ground, text: onGround } = from?.ground ?? {
    background: own,
    text: isDark(own) ? '#ffffff' : '#222222',
  }
  const styles = css`
    /* A card on a quiet ground of the same family: a page full of a form's colour would be a sea with an island in it. */
    body {
      --button: ${button};
      box-sizing: border-box;
      min-height: 100vh;
      margin: 0;
      padding: clamp(1rem, 12vh, 8rem) 1rem 2rem;
      background: ${ground};
      color: ${text};
      font: 1.0625rem/1.6 ${font};
    }
    .from {
      width: min(36rem, 100%);
      margin: 0 auto 0.75rem;
      color: ${onGround};
      font-size: 0.9375rem;
      font-weight: 600;
    }
    main {
      box-sizing: border-box;
      width: min(36rem, 100%);
      margin: 0 auto;
      padding: clamp(1.5rem, 6vw, 3rem);
      border-radius: ${Math.min(look.border.corner, 16)}px;
      background: ${background};
      box-shadow:
        0 1px 3px rgb(0 0 0/0.12),
        0 10px 36px rgb(0 0 0/0.08);
      overflow-wrap: anywhere;
    }
    h1 {
      margin: 0 0 0.5rem;
      font-size: 1.75rem;
      font-weight: ${look.type.headingWeight};
      line-height: 1.2;
      text-wrap: balance;
      ${ownHeading(look)};
    }
    p {
      margin: 0 0 1rem;
      white-space: pre-line;
      text-wrap: pretty;
    }
    main > :last-child {
      margin-bottom: 0;
    }
    a {
      color: inherit;
    }
    .back {
      margin-top: 2rem;
    }
    :focus-visible {
      outline: 3px solid;
      outline-offset: 2px;
    }
  `
  return documentOf({
    title: title || 'Sign up',
    language,
    css: [look.type.font === 'shipped' && fontFace('', 'swap'), styles, more].filter(Boolean).join('\n'),
    body: [
      ...(from === null ? [] : [element('p', { class: 'from' }, from.name)]),
      element('main', {}, ...body.filter((node): node is Node => node !== false)),
    ],
  })
}

export interface DocumentParts {
  title: string
  language?: Language
  css: string
  body: Node[]
  /** More for the head. */
  head?: (Node | false)[]
  /** Whether search engines may list it. */
  isListed?: boolean
}

export function documentOf({ title, language = 'en', css, body, head = [], isListed = false }: DocumentParts): Page {
  return element(
    'html',
    { lang: language, dir: directionOf(language) === 'rtl' ? 'rtl' : undefined },
    element(
      'head',
      {},
      element('meta', { charset: 'utf-8' }),
      element('meta', { name: 'viewport', content: 'width=device-width, initial-scale=1' }),
      !isListed && element('meta', { name: 'robots', content: 'noindex' }),
      element('title', {}, title),
      ...head,
      element('style', {}, css),
    ),
    element('body', {}, ...body),
  )
}

/** A whole page as the text of an HTML file. */
export function toDocument(page: Page): string {
  return `<!DOCTYPE html>\n${toHtml(page)}\n`
}

import { css } from './css'
import { fontFace } from './font-face'
import { fieldTitle, type FormContent } from '#core/form'
import { fontStack, isDark, type Look, mix, plainLook } from '#core/look'
import { scopeOf } from './styles'
import { ownHeading } from './word-rules'
import { filledIn, type Language, textsOf } from '#core/texts'
import type { FormState } from './field'
import { renderForm, withForm } from './form'
import { settingsOf } from './wire'
import { documentOf, type Page } from './document'
import { element, type Node } from './node'
import type { PlacedForm } from './placed'
import type { WayBack } from './way-back'

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

export function pressNode({ action, words, values = {}, isMain }: Press): Node {
  return element(
    'form',
    { method: 'post', action, class: isMain ? 'press' : 'press quiet' },
    ...Object.entries(values).map(([name, value]) => element('input', { type: 'hidden', name, value })),
    element('button', { type: 'submit' }, words),
  )
}

export function pressStyles({ look }: PageContent): string {
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
  return page({
    title,
    content,
    styles: css`
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
    body: [
      // One error stands beside its field and is not said twice; several are listed first.
      element(
        'div',
        { role: 'alert' },
        element('h1', {}, title),
        errors.length > 1 && element('ul', {}, ...namedErrors(placed, state)),
      ),
      renderForm(placed, state),
      wayBackNode(wayBack, content),
    ],
    from: wayBack,
  })
}

/** Each field that needs another look, by its name, as a link to where it is filled in. */
function namedErrors({ content, spot }: PlacedForm, { errors }: FormState): Node[] {
  return content.fields.flatMap((field) => {
    const error = errors[field.key]
    if (error === undefined) return []
    return [
      element('li', {}, element('a', { href: `#${scopeOf(spot)}-${field.key}` }, fieldTitle(field)), `: ${error}`),
    ]
  })
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
  return page({
    title: texts.oneMoment,
    content,
    styles: css`
      progress {
        width: 100%;
        accent-color: var(--button);
      }
      [hidden] {
        display: none;
      }
    `,
    body: [
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
    ],
  })
}

/**
 * The form alone, for a frame on the owner's site. Where scripts run it answers in place; without them it is sent within the
 * frame, whose pages lead out of it.
 */
export function framePage(placed: PlacedForm, state: FormState, tells: FrameTells | null = null): Page {
  const { content, receiver } = placed
  const settings = element(
    'script',
    { type: 'application/json', class: 'askbox-settings' },
    JSON.stringify(settingsOf(content, placed.answers)),
  )
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
    head: [content.direct === undefined && element('script', { src: `${receiver}/askbox.js`, defer: true })],
    body: [
      withForm(renderForm(placed, state), (form) => ({ ...form, children: [settings, ...form.children] })),
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

export function frameScript({ receiver, spot, origin, outcome }: FrameTells): Node {
  return element('script', {
    type: 'module',
    src: `${receiver}/frame.js`,
    'data-spot': spot,
    'data-origin': origin,
    ...(outcome !== undefined && { 'data-outcome': outcome }),
  })
}

/** A plain page that says one thing: what happened, and what to do. For visitors who met a dead end. */
export function noticePage(title: string, message: string): Page {
  const content = { look: plainLook, language: 'en' } as const
  return page({ title, content, body: [element('h1', {}, title), element('p', {}, message)] })
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

export function wayBackNode(wayBack: WayBack | null, { language, texts }: PageContent): Node | false {
  return (
    wayBack !== null &&
    element(
      'p',
      { class: 'back' },
      element('a', { href: wayBack.address }, filledIn(textsOf(language, texts).backTo, { place: wayBack.name })),
    )
  )
}

/** What a page of ours shows, on a card. */
interface CardPage {
  title: string
  content: { look: Look; language: Language }
  /** Beside those of every page. */
  styles?: string
  body: (Node | false)[]
  /** The site that it belongs to: it stands on that site's ground, under its name. */
  from?: WayBack | null
  /** More for its head. */
  head?: (Node | false)[]
}

export function page({ title, content, styles: more = '', body, from = null, head = [] }: CardPage): Page {
  const { look, language } = content
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
    head,
    body: [
      ...(from === null ? [] : [element('p', { class: 'from' }, from.name)]),
      element('main', {}, ...body.filter((node): node is Node => node !== false)),
    ],
  })
}

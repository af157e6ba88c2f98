import { type Answer, type AnswerCase, closedWords, type FormContent } from '#core/form'
import type { Spot } from '#core/spot'
import { css } from './css'
import type { Page } from './document'
import { element } from './node'
import {
  frameScript,
  type FrameTells,
  page,
  type PageContent,
  type Press,
  pressNode,
  pressStyles,
  wayBackNode,
} from './page'
import type { WayBack } from './way-back'

/** The page a visitor is sent to after pressing the button: the answer's own words in the form's look. */
export function answerPage(
  answer: Pick<Answer, 'heading' | 'message'>,
  content: PageContent,
  wayBack: WayBack | null,
  more: {
    links?: readonly { address: string; words: string }[]
    presses?: readonly Press[]
    sign?: AnswerSign | null
    tells?: FrameTells | null
    isInFrame?: boolean
  } = {},
): Page {
  const { look } = content
  const main = {
    plain: '',
    framed: 'main{border:2px solid var(--button)}',
    barred: 'main{border-inline-start:6px solid var(--button)}',
  }[look.result]
  const { presses = [], links = [], sign = null, tells = null, isInFrame = false } = more
  return page({
    title: answer.heading,
    content,
    styles: [
      main,
      sign === null ? '' : SIGN_STYLES,
      presses.length === 0 && links.length === 0 ? '' : pressStyles(content),
    ]
      .filter(Boolean)
      .join('\n'),
    body: [
      sign !== null && element('div', { class: `sign ${sign}`, 'aria-hidden': 'true' }),
      answer.heading !== '' && element('h1', {}, answer.heading),
      answer.message !== '' && element('p', {}, answer.message),
      ...links.map(({ address, words }) =>
        element('p', { class: 'gift' }, element('a', { href: address, ...(isInFrame && { target: '_blank' }) }, words)),
      ),
      ...presses.map(pressNode),
      wayBackNode(wayBack, content),
      tells !== null && frameScript(tells),
    ],
    // In a frame the page around it says whose it is.
    from: isInFrame ? null : wayBack,
  })
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

/** Answer to a form that its owner has closed: kind words in the form's look, and the way back. */
export function closedPage(content: FormContent, state: Spot['state'], wayBack: WayBack | null): Page {
  const words = closedWords(content, state)
  const body = [element('h1', {}, words), wayBackNode(wayBack, content)]
  return page({ title: words, content, body, from: wayBack })
}

export const SIGN_STYLES = css`
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

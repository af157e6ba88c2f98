import { css } from './css'
import { answersInPlace, type FormContent } from '#core/form'
import { contrast, SHIPPED_FONT_PATH } from '#core/look'
import type { PopUp, Spot } from '#core/spot'
import { directionOf, answerTextsOf, textsOf } from '#core/texts'
import { renderForm } from './form'
import { closedNode, knownNode } from './known'
import { attributesOf, type Element, type Node } from './node'
import type { FormSettings, PlacedForm } from './placed'
import { formStyles } from './styles'

/** An element as JSON: its tag, its attributes (an empty text for a bare name), then its children. */
export type WireNode = string | [tag: string, attributes: Record<string, string>, ...children: WireNode[]]

/** A form as the visitors' script builds it in a page: nodes and styles apart, so that a page's policy can allow both. */
export interface WiredForm {
  /** The form in the element that wears its look, without its styles. */
  form: WireNode
  styles: string
  /** Whether it wears the site's styles, and so has to stand where they reach it. */
  isOfSite: boolean
  direction: 'ltr' | 'rtl'
  /** Address of the font to load, or null. A font that a shadow tree's styles name is not loaded by browsers. */
  font: string | null
  /** Accessible name of a dialog around it. */
  title: string
  settings: FormSettings
  /** Shown in the form's place to somebody who signed up in this browser before; missing for the form itself. */
  known?: WireNode
}

/** Where over a page a form is: as a dialog, or along the lower edge of the window. */
type OverPage = PopUp['position'] | 'edge'

/** @param over where it is over the page, for one that is */
export function wiredForm(placed: PlacedForm, over: OverPage | null = null): WiredForm {
  const { content } = placed
  const knownVisitor = content.known && wireNodes(knownNode(placed, content.known))[0]
  return {
    ...wiredCard(placed, renderForm(placed)),
    ...(over !== null && { styles: `${formStyles(placed)}\n${dialogStyles(content, over)}` }),
    settings: settingsOf(content, placed.answers),
    ...(knownVisitor !== undefined && { known: knownVisitor }),
  }
}

/** What the script puts in the place of a form that takes no sign-ups: the same without anything to fill in. */
export function wiredClosed(placed: PlacedForm, state: Spot['state']): Omit<WiredForm, 'settings'> {
  return wiredCard(placed, closedNode(placed, state))
}

function wiredCard(placed: PlacedForm, card: Element): Omit<WiredForm, 'settings'> {
  const { content, receiver } = placed
  const { words, look, language } = content
  return {
    form: wireNodes(card)[0]!,
    styles: formStyles(placed),
    isOfSite: look.dress === 'site',
    direction: directionOf(language),
    font: look.type.font === 'shipped' ? `${receiver}${SHIPPED_FONT_PATH}` : null,
    title: words.heading || words.button,
  }
}

/** @param answers all of them, where those that the owner did not write are known; else only what is written */
export function settingsOf(
  { fields, language, texts, answers: written }: FormContent,
  answers: FormSettings['answers'] = outcomesIn(written),
): FormSettings {
  const { sendAgain, sentAgain, goOn } = answerTextsOf(language)
  return {
    fields,
    texts: textsOf(language, texts),
    answers,
    onward: goOn,
    again: { press: sendAgain, done: sentAgain },
  }
}

function outcomesIn(written: FormContent['answers']): FormSettings['answers'] {
  return Object.fromEntries(answersInPlace.flatMap((one) => (written[one] === undefined ? [] : [[one, written[one]]])))
}

/** A node, or the several that stand in the place of one, without any style sheet. */
function wireNodes(node: Node): WireNode[] {
  if (typeof node === 'string') return node === '' ? [] : [node]
  if (node.tag === 'style') return []
  const children = node.children.flatMap(wireNodes)
  if (node.tag === '') return children
  const attributes = attributesOf(node).map(([name, value]) => [name, value === true ? '' : value])
  return [[node.tag, Object.fromEntries(attributes), ...children]]
}

/** A form within a pop-up: flush with its edges, the picture cropped so that the words stay in sight, a cross above both. */
export function popUpCardStyles({ colours: { background } }: FormContent['look']): string {
  const cross = contrast('#1c1c1c', background) > contrast('#ffffff', background) ? '#1c1c1c' : '#ffffff'
  return css`
    .over .askbox-card {
      max-width: none !important;
      margin: 0 !important;
      border: 0 !important;
      box-shadow: none !important;
    }
    .over .askbox-picture {
      border-radius: 0 !important;
    }
    .over .askbox-picture img {
      max-height: min(14em, 30vh) !important;
      object-fit: cover !important;
    }
    /* Takes no room, and stays in sight where the form is higher than the window; on a disc, whatever picture is below it. */
    .close {
      all: initial;
      display: block;
      position: sticky;
      inset-block-start: 4px;
      z-index: 1;
      width: 44px;
      height: 44px;
      margin: 4px 4px -48px auto;
      margin-inline: auto 4px;
      border: 5px solid transparent;
      border-radius: 50%;
      box-sizing: border-box;
      background: ${background} padding-box;
      font:
        24px/34px system-ui,
        sans-serif;
      text-align: center;
      color: ${cross};
      cursor: pointer;
    }
  `
}

/** The dialog of a pop-up, on the form's ground, with its cross in a corner; in pixels, because sites change what `rem` is. */
function dialogStyles({ look }: FormContent, position: OverPage): string {
  const { background, text } = look.colours
  const place =
    position === 'middle'
      ? css`
          margin: auto;
        `
      : position === 'edge'
        ? css`
            position: fixed;
            z-index: 2147483000;
            inset: auto 0 0;
            margin: 0;
          `
        : css`
          position: fixed;
          z-index: 2147483000;
          inset: auto;
          inset-block-end: 16px;
          inset-inline-${position === 'bottom-end' ? 'end' : 'start'}: 16px;
          margin: 0;
        `
  return css`
    /* All of it is in the top layer: in a page that is laid out as a row, what holds it takes no part. */
    :host(.pop-up) {
      position: absolute !important;
      width: 0 !important;
      min-width: 0 !important;
    }
    .over {
      box-sizing: border-box;
      width: ${position === 'edge' ? '100%' : `min(${position === 'middle' ? 544 : 384}px, 100vw - 32px)`};
      max-width: none;
      max-height: ${position === 'edge' ? '50dvh' : 'calc(100dvh - 32px)'};
      padding: 0;
      border: 0;
      border-radius: ${position === 'edge' ? 0 : '8px'};
      overflow: auto;
      overscroll-behavior: contain;
      background: ${background};
      color: ${text};
      box-shadow: 0 12px 48px #0006;
      ${place};
    }
    ${position !== 'middle' && '@media (max-width: 480px) { .over { max-height: 50dvh; } }'}
    dialog::backdrop {
      background: #0009;
    }
    .over:focus-visible {
      outline: 0;
    }
    ${popUpCardStyles(look)}
    .close:focus-visible {
      outline: 3px solid;
      outline-offset: -6px;
    }
  `
}

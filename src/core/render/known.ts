import { closedWords, type Known } from '#core/form'
import { addressProblem } from '#core/site'
import type { Spot } from '#core/spot'
import { directionOf, textsOf } from '#core/texts'
import { type Element, element } from './node'
import type { PlacedForm } from './placed'
import { scopeOf } from './styles'

/** A button that looks like a link, wherever it stands, and is big enough to hit: WCAG 2.2, 2.5.8. */
const QUIET_BUTTON =
  'min-height:24px;padding:0;border:0;background:none;color:inherit;font:inherit;text-decoration:underline;cursor:pointer'

/** Stands in the form's place while it takes no sign-ups, in the form's look. */
export function closedNode({ content, spot }: Pick<PlacedForm, 'content' | 'spot'>, state: Spot['state']): Element {
  const { language } = content
  return element(
    'div',
    { class: `askbox-card ${scopeOf(spot)}`, lang: language, dir: directionOf(language) },
    element('p', {}, closedWords(content, state)),
  )
}

/** Shown in the form's place to somebody who signed up here before, in the form's look, with a way to the form. */
export function knownNode({ content, spot }: Pick<PlacedForm, 'content' | 'spot'>, known: Known): Element {
  const { language, texts } = content
  const { heading, message, link } = known
  return element(
    'div',
    { class: `askbox-card ${scopeOf(spot)}`, lang: language, dir: directionOf(language) },
    heading !== '' && element('h2', { class: 'askbox-heading' }, heading),
    message !== '' && element('p', { style: 'white-space:pre-line' }, message),
    addressProblem(link.address) === null &&
      element('p', {}, element('a', { href: new URL(link.address.trim()).href }, link.words || link.address.trim())),
    element(
      'p',
      {},
      element('button', { type: 'button', style: QUIET_BUTTON }, textsOf(language, texts).anotherAddress),
    ),
  )
}

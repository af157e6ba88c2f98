import { parse } from 'parse5'
import { elementsBelow } from '#core/submission'
import { visibilityOn } from './visibility'

const unreadOn = (css: string, body = '<div class="box"><p><form id="f"><input></form></p></div>') => {
  const page = parse(`<style>${css}</style>${body}`)
  const input = elementsBelow(page).find(({ tagName }) => tagName === 'input')!
  return visibilityOn(page).unread(input)?.because ?? null
}

test.each([
  ['a condition on what the browser can', '@supports (display: grid) { .box { display: none } }', '@supports'],
  ['the width of what is around', '@container (width < 400px) { form { opacity: 0 } }', '@container'],
  ['a layer', '@layer theme { input { visibility: hidden } }', '@layer'],
  ['nesting', '.box { color: red; & form { display: none } }', 'nesting'],
  ['nesting without a sign', '.box { form { display: none } }', 'nesting'],
  ['what it has in it', '.box:has(form) { height: 0 }', ':has()'],
  ['a variable', '.box { display: var(--shown) }', 'var()'],
  ['an animation that hides', '@keyframes in { from { opacity: 0 } } form { animation: in 1s }', 'an animation'],
  // Of other parts of the page, and what hides nothing.
  ['a condition on another part', '@supports (display: grid) { .aside { display: none } }', null],
  [
    'a condition on looks',
    '@supports (display: grid) { .box { display: grid; color: var(--ink); opacity: 0.9 } }',
    null,
  ],
  ['nesting elsewhere', '.aside { form { display: none } }', null],
  ['an animation that moves a colour', '@keyframes glow { to { color: red } } form { animation: glow 1s }', null],
  ['a wide window', '@media (min-width: 600px) { .box { color: red } }', null],
])('%s: %s', (_, css, because) => {
  expect(unreadOn(css)).toBe(because)
})

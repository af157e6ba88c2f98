import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { htmlElementAttributes } from 'html-element-attributes'
import { Chance } from './chance'
import { declarationBy } from './css-values'
import { codes, type Recipe } from './recipe'

/** Elements of HTML, SVG and MathML, from the standards' own lists (W3C's webref), but for those that end or begin a page. */
const elements = ['html', 'SVG2', 'mathml-core'].flatMap((list) => {
  const path = createRequire(import.meta.url).resolve(`@webref/elements/${list}.json`)
  const { elements } = JSON.parse(readFileSync(path, 'utf8')) as { elements: { name: string }[] }
  return elements.map(({ name }) => name).filter((name) => !['html', 'head', 'body', 'plaintext'].includes(name))
})
const usual = [
  'div',
  'section',
  'article',
  'aside',
  'p',
  'ul',
  'li',
  'table',
  'td',
  'details',
  'form',
  'span',
  'a',
  'main',
  'dialog',
]
const attributeValues = [
  '',
  'true',
  'false',
  'auto',
  'manual',
  '0',
  '1',
  'none',
  '#one',
  'allow-scripts',
  'allow-forms',
  'until-found',
  '/elsewhere',
]

/** The page of one place in the order that a seed brings. */
export function recipeAt(seed: number, at: number): Recipe {
  const chance = new Chance(seed * 10_007 + at)
  const around = Array.from({ length: chance.between(0, 4) }, (_, depth) => startTagBy(chance, depth))
  const rules = Array.from({ length: chance.between(0, 4) }, () => ruleBy(chance, around.length))
  return { code: chance.one(codes), around, rules }
}

function startTagBy(chance: Chance, depth: number): string {
  const element = chance.isTrue(0.6) ? chance.one(usual) : chance.one(elements)
  const allowed = [...(htmlElementAttributes['*'] ?? []), ...(htmlElementAttributes[element] ?? [])]
  const names = Array.from({ length: chance.isTrue(0.4) ? chance.between(1, 2) : 0 }, () => chance.one(allowed))
  const attributes = [...new Set(names)]
    .filter((name) => name !== 'class' && name !== 'style')
    .map((name) => ` ${name}="${chance.one(attributeValues)}"`)
  const style = chance.isTrue(0.2) ? ` style="${declarationBy(chance).replaceAll('"', '&quot;')}"` : ''
  return `<${element} class="w${depth}"${attributes.join('')}${style}>`
}

function ruleBy(chance: Chance, depth: number): string {
  const box = `.w${chance.between(0, Math.max(0, depth - 1))}`
  const selector = chance.one([
    ...[box, box, box, `${box} > *`, `${box} :is(form, iframe, a, askbox-form)`, `${box}:has(form)`, `${box}::before`],
    ...['form', 'main > *', 'input', 'button', 'label', 'body', ':root', '*', 'main', 'p + *', 'iframe', 'main a'],
  ])
  const name = `k${chance.between(0, 9)}`
  const declarations = Array.from({ length: chance.between(1, 3) }, () => declarationBy(chance)).join('; ')
  const rule = `${selector} { ${declarations} }`
  const within = chance.one([
    ...[
      '',
      '',
      '',
      '',
      '',
      '',
      '@media screen',
      '@media print',
      '@media (min-width: 300px)',
      '@media (max-width: 600px)',
    ],
    ...['@supports (display: grid)', '@supports not (display: grid)', '@layer site', '@container (min-width: 100px)'],
    ...['@media (prefers-color-scheme: light)', 'nested', 'animation', '@scope (main)', '@starting-style'],
  ])
  if (within === '') return rule
  if (within === 'nested') return `main { & ${rule} }`
  if (within === 'animation')
    return `@keyframes ${name} { from, to { ${declarations.replaceAll(' !important', '')} } } ${selector} { animation: ${name} 1s infinite }`
  return `${within} { ${rule} }`
}

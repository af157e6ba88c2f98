import { type DSNode, lexer } from 'css-tree'
import type { Chance } from './chance'

/** Properties of the CSS data set that css-tree carries (mdn-data), but for vendors' own. */
const { properties: grammar } = lexer as unknown as { properties: Record<string, unknown> }
const properties = Object.keys(grammar).filter((name) => !name.startsWith('-') && name !== 'all')

const DEEPEST = 14
const TRIES = 40

/** What stands for values that the data set describes in prose alone. Lengths and shares as pages have them, and extremes. */
const samples: Record<string, readonly string[]> = {
  length: ['0', '1px', '16px', '2em', '40px', '320px', '-30px', '-9999px', '90vw', '120vh', '10rem'],
  percentage: ['0%', '1%', '50%', '100%', '130%', '-100%'],
  number: ['0', '0.01', '0.5', '1', '2', '-1', '10'],
  integer: ['-1', '0', '1', '2', '3', '999'],
  angle: ['0deg', '3deg', '90deg', '180deg', '1turn'],
  time: ['0s', '1s', '300ms', '60s'],
  resolution: ['1dppx'],
  dimension: ['1px'],
  flex: ['0fr', '1fr'],
  decibel: ['0dB'],
  frequency: ['1Hz'],
  'hex-color': ['#fff', '#000', '#f7f6f3', '#0000', '#a3244f80'],
  string: ['"x"'],
  'custom-ident': ['main', 'w0', 'one'],
  'dashed-ident': ['--one'],
  'custom-property-name': ['--one'],
  ident: ['one'],
  url: ['url("data:image/gif;base64,R0lGODlhAQABAAAAACw=")', 'url(#one)'],
  'an-plus-b': ['2n+1'],
  urange: ['U+0-7F'],
  zero: ['0'],
}

/** One property with a value that its published grammar allows, by chance; `!important` at times. */
export function declarationBy(chance: Chance): string {
  for (let tries = 0; tries < TRIES; tries += 1) {
    const name = chance.one(properties)
    const { syntax } = lexer.getProperty(name) ?? {}
    const value = syntax === undefined || syntax === null ? '' : written(syntax, chance, 0).replace(/\s+/g, ' ').trim()
    if (value !== '' && value.length < 200 && lexer.matchProperty(name, value).error === null)
      return `${name}: ${value}${chance.isTrue(0.4) ? ' !important' : ''}`
  }
  return 'display: none'
}

/** Walks a definition of the value definition syntax (CSS Values 4, section 2) and writes what it allows. */
function written(node: DSNode, chance: Chance, depth: number): string {
  const deeper = (one: DSNode) => written(one, chance, depth + 1)
  switch (node.type) {
    case 'Keyword':
    case 'Token':
    case 'AtKeyword':
      return 'name' in node ? node.name : node.value
    case 'String':
      return node.value.replace(/^'|'$/g, '')
    case 'Comma':
      return ','
    case 'Function':
      return `${node.name}(`
    case 'Multiplier': {
      const most =
        depth > DEEPEST / 2 ? Math.max(1, node.min) : node.max === 0 ? node.min + 2 : Math.min(node.max, node.min + 2)
      const times = chance.between(node.min, Math.max(node.min, most))
      return Array.from({ length: times }, () => deeper(node.term)).join(node.comma ? ', ' : ' ')
    }
    case 'Type': {
      const sample = samples[node.name]
      if (sample !== undefined) return chance.one(sample)
      const { syntax } = lexer.getType(node.name) ?? {}
      return syntax === undefined || syntax === null || depth > DEEPEST ? '' : deeper(syntax)
    }
    case 'Property': {
      const { syntax } = lexer.getProperty(node.name) ?? {}
      return syntax === undefined || syntax === null || depth > DEEPEST ? '' : deeper(syntax)
    }
    case 'Group': {
      const { terms, combinator } = node
      if (combinator === '|') return deeper(chance.one(terms))
      // "&&": all, "||": at least one; the order is free.
      const some = combinator === '||' ? terms.filter(() => chance.isTrue(0.5)) : terms
      return (some.length === 0 ? [chance.one(terms)] : some).map(deeper).join(' ')
    }
    default:
      return ''
  }
}

import { codeAs, sharedLine } from '#core/embed'
import { inTagsCode } from '#core/inlining'
import * as samples from '../tables/samples'
import { type PageCase, popUpSpot } from './cases'

export const codes = ['plain', 'in-tags', 'script', 'frame', 'link', 'pop-up'] as const

/** What a page was made of, so that it can be made again. */
export interface Recipe {
  code: (typeof codes)[number]
  /** What the code stands in, from the outermost; start tags. */
  around: string[]
  /** Rules of the page's own style sheet. */
  rules: string[]
}

/** The page itself. */
export function pageOf({ code, around, rules }: Recipe, receiver: string): Pick<PageCase, 'html' | 'code' | 'spot'> {
  const { version } = samples
  const spot = code === 'pop-up' ? popUpSpot : samples.spot
  const kind = code === 'pop-up' ? 'script' : code
  const pasted = codeAs(kind, { spot, version, heights: null, title: 'Sign up' }, receiver, inTagsCode)
  const head = code === 'script' ? sharedLine(receiver) : ''
  const ends = around.map((tag) => `</${/^<([a-zA-Z0-9-]+)/.exec(tag)![1]}>`).reverse()
  const html = [
    '<!DOCTYPE html>\n<html lang="en">\n<head>\n<meta charset="utf-8">',
    '<meta name="viewport" content="width=device-width, initial-scale=1">\n<title>Open nights</title>',
    '<style>body { max-width: 60em; margin: 2em auto; font-family: sans-serif }</style>',
    ...(rules.length > 0 ? [`<style>\n${rules.join('\n')}\n</style>`] : []),
    ...(head === '' ? [] : [head]),
    '</head>\n<body>\n<header><h1>Open nights</h1></header>\n<main>\n<p>Every clear Friday, from dusk.</p>',
    [...around, pasted, ...ends].join('\n'),
    '</main>\n<footer><p>Bring warm socks.</p></footer>\n</body>\n</html>',
  ].join('\n')
  return { html, code: kind, spot }
}

/** A page that once came out wrong, and what a visitor could do on it: generated.json. */
export interface KeptPage {
  /** Seed and place in its order, of the generator as it was then. */
  from: string
  verdict: 'well' | 'poorly' | 'not'
  recipe: Recipe
}

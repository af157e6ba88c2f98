import { directionOf, type Language } from '#core/texts'
import { type Element, element, type Node, toHtml } from './node'

/** An `html` element with all that is in it. */
export type Page = Element

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

const NAMES: Record<string, string> = {
  p: 'paragraph',
  header: 'head of the page',
  footer: 'foot of the page',
  nav: 'navigation',
  main: 'main part',
  article: 'entry',
  section: 'section',
  aside: 'side column',
  img: 'picture',
  figure: 'picture',
  ul: 'list',
  ol: 'list',
  li: 'point of a list',
  a: 'link',
  blockquote: 'quotation',
  table: 'table',
  form: 'form',
  button: 'button',
  body: 'whole page',
}

/** A part of a page as its owner would call it, with how it begins. */
export function partWords(part: Element): string {
  const tag = part.localName
  const name = /^h[1-6]$/.test(tag) ? 'heading' : (NAMES[tag] ?? 'part')
  const text = (part.textContent ?? '').replace(/\s+/g, ' ').trim()
  const begins = text.length > 48 ? `${text.slice(0, 46)} …` : text
  return begins === '' ? name : `${name} “${begins}”`
}

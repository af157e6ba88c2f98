import { elementsIn } from './elements'

/** All CSS in a page, or the pasted text itself where it is a style sheet. */
export function styleSheetIn(pasted: string): string {
  if (!isPage(pasted)) return pasted
  const elements = elementsIn(pasted)
  const sheets = elements.filter(({ name }) => name === 'style').map(({ text }) => text)
  const attributes = elements.flatMap(({ name, attributes }) =>
    attributes.has('style') ? [`${name}{${attributes.get('style')}}`] : [],
  )
  return [...sheets, ...attributes].join('\n')
}

/** A page begins with a tag or names its parts; a sheet may hold tags too, in comments, pictures and descriptors. */
function isPage(pasted: string): boolean {
  return /^\s*<[a-z!]/i.test(pasted.slice(0, 1_000)) || /<(html|head|body|style)[\s>]/i.test(withoutAsides(pasted))
}

/** Without what a style sheet says in comments and in quotes. */
function withoutAsides(css: string): string {
  const texts: string[] = []
  for (let at = 0; at < css.length;) {
    const match = /\/\*|["']/.exec(css.slice(at, at + 10_000))
    if (match === null) {
      texts.push(css.slice(at, at + 10_000))
      at += 10_000
      continue
    }
    const [open] = match
    texts.push(css.slice(at, at + match.index))
    const from = at + match.index + open.length
    const end = css.indexOf(open === '/*' ? '*/' : open, from)
    at = end < 0 ? css.length : end + (open === '/*' ? 2 : 1)
  }
  return texts.join('')
}

/** Elements whose content is text to a parser, whatever it looks like. HTML Living Standard, section 13.2.5. */
const RAW = new Set(['script', 'style', 'textarea', 'title', 'xmp', 'noembed', 'noframes'])
/** What can matter to our code from far away: what is around it, scripts and policies. */
const KEPT = new Set(['html', 'head', 'body', 'form', 'script', 'meta', 'base', 'template', 'noscript'])

/**
 * A page without what has nothing to do with our code: all that is near the given places stays as it is, of the rest only
 * what can matter from far away, and the line breaks, so that lines keep their numbers. Takes time with the page's length.
 *
 * @param places offsets into the page, ascending
 * @param near characters kept before and after each
 */
export function reduced(html: string, places: readonly number[], near: number): string {
  if (html.length < 4 * near) return html
  const parts: string[] = []
  let [at, next] = [0, 0]
  const isNear = (from: number, to: number) => {
    while (next < places.length && places[next]! + near < from) next += 1
    return next < places.length && places[next]! - near < to
  }
  const take = (to: number, isKept: boolean) => {
    const piece = html.slice(at, to)
    parts.push(isKept || isNear(at, to) ? piece : piece.replace(/[^\n]+/g, ''))
    at = to
  }
  const end = (text: string, from: number) => {
    const position = html.indexOf(text, from)
    return position < 0 ? html.length : position + text.length
  }
  while (at < html.length) {
    const open = html.indexOf('<', at)
    if (open < 0) take(html.length, false)
    else if (open > at) take(open, false)
    else if (html.startsWith('<!--', at)) take(end('-->', at), false)
    else {
      const name = /^<\/?([a-z][a-z0-9-]*)/i.exec(html.slice(at, at + 40))?.[1]?.toLowerCase()
      if (name === undefined) take(at + 1, false)
      else {
        const isStart = html[at + 1] !== '/'
        take(end('>', at), KEPT.has(name))
        if (isStart && RAW.has(name)) take(rawEnd(html, at, name), false)
      }
    }
  }
  return parts.join('')
}

function rawEnd(html: string, from: number, name: string): number {
  const lower = `</${name}`
  for (let at = html.indexOf('</', from); at >= 0; at = html.indexOf('</', at + 2))
    if (html.slice(at, at + lower.length).toLowerCase() === lower) return at
  return html.length
}

/** All offsets of some texts, ascending. */
export function placesOf(html: string, texts: readonly string[]): number[] {
  const positions: number[] = []
  for (const text of texts)
    for (let at = html.indexOf(text); at >= 0 && positions.length < 1000; at = html.indexOf(text, at + text.length))
      positions.push(at)
  return positions.sort((one, other) => one - other)
}

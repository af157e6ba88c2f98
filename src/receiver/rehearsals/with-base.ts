/**
 * A page with a `<base>` of where it was fetched, so that relative addresses go on leading where they led. A base that
 * the page has counts before ours. Looks at each character a few times at most, whatever the page is made of.
 */
export function withBase(html: string, address: string): string {
  const base = `<base href="${address.replaceAll('&', '&amp;').replaceAll('"', '&quot;')}">`
  const lower = html.toLowerCase()
  if (lower.length !== html.length) return base + html
  for (const { at, end } of tagsNamed(lower, 'base')) if (hasAttribute(lower.slice(at, end), 'href')) return html
  for (const { end } of tagsNamed(lower, 'head')) return html.slice(0, end) + base + html.slice(end)
  return base + html
}

/** The longest tag that is looked at: attributes beyond are none that we look for. */
const LONGEST_TAG = 4_096

/** Where opening tags of a name begin and end; HTML, section 13.1.2.1. */
function* tagsNamed(lower: string, name: string): Generator<{ at: number; end: number }> {
  for (let at = lower.indexOf(`<${name}`); at >= 0; at = lower.indexOf(`<${name}`, at + 1)) {
    const next = lower[at + name.length + 1] ?? ''
    if (!/[\s/>]/.test(next)) continue
    const end = lower.slice(at, at + LONGEST_TAG).indexOf('>')
    if (end >= 0) yield { at, end: at + end + 1 }
  }
}

function hasAttribute(tag: string, name: string): boolean {
  const at = tag.indexOf(name)
  return at > 0 && /[\s"'/]/.test(tag[at - 1]!)
}

import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import { attribute, baseOf, elementsBelow, resolvedOn } from '#core/submission'
import type { Ports } from './ports'

/** More than pages have, and an end to it. */
const MOST_SHEETS = 20

export interface LinkedSheets {
  texts: string[]
  /** Addresses of those that could not be read: what they hide is not known. */
  unread: string[]
}

/** The style sheets that a page links to, fetched as a visitor's browser fetches them. HTML, section 4.6.7.10. */
export async function linkedSheets(page: Html.ParentNode, address: string, ports: Ports): Promise<LinkedSheets> {
  const base = baseOf(page, address)
  const links = elementsBelow(page).filter(
    (one) =>
      one.tagName === 'link' &&
      (attribute(one, 'rel') ?? '').toLowerCase().split(/\s+/).includes('stylesheet') &&
      !(attribute(one, 'rel') ?? '').toLowerCase().split(/\s+/).includes('alternate') &&
      attribute(one, 'disabled') === null,
  )
  const sheets: LinkedSheets = { texts: [], unread: [] }
  for (const [at, link] of links.entries()) {
    const href = resolvedOn(attribute(link, 'href') ?? '', base)?.href
    if (href === undefined) continue
    const media = (attribute(link, 'media') ?? '').trim()
    const read = at < MOST_SHEETS ? await ports.fetch(href).catch(() => null) : null
    if (read === null || read.status >= 400) sheets.unread.push(href)
    else sheets.texts.push(media === '' ? read.html : `@media ${media} {\n${read.html}\n}`)
  }
  return sheets
}

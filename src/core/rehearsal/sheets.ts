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
  // Beside each other: one that hangs costs its own time, and not that of all.
  const fetched = await Promise.all(
    links.map(async (link, at) => {
      const href = resolvedOn(attribute(link, 'href') ?? '', base)?.href
      if (href === undefined) return null
      const media = (attribute(link, 'media') ?? '').trim()
      return { href, media, sheet: at < MOST_SHEETS ? await ports.fetch(href).catch(() => null) : null }
    }),
  )
  for (const one of fetched) {
    if (one === null) continue
    const { href, media, sheet } = one
    if (sheet === null || sheet.status >= 400) sheets.unread.push(href)
    else sheets.texts.push(media === '' ? sheet.html : `@media ${media} {\n${sheet.html}\n}`)
  }
  return sheets
}

import { itemsIn, nextPage, type RequestName, type RequestValues } from '#core/connection'
import type { ApiWay, Asked, SentKey, ServiceClient } from './client'

/** One service with its key, so that it can be asked several things in a row. */
export interface Talk {
  way: ApiWay
  key: SentKey | null
  client: ServiceClient
}

export const ask = (talk: Talk, name: RequestName, values: RequestValues) =>
  talk.client.ask(talk.way, name, values, talk)

const MOST_PAGES = 10_000
/** Of one press, which somebody waits for. */
const LONGEST_MS = 60_000

/**
 * Reads all that a service lists, page by page. Ends with the answer that was no page.
 *
 * @param longestMs how long that may take in all; what was read until then was yielded, and then it says so
 */
export async function* pagesOf(
  talk: Talk,
  name: 'lists' | 'fields' | 'members' | 'tags',
  values: RequestValues,
  longestMs = LONGEST_MS,
): AsyncGenerator<{ asked: Asked; items: unknown[] }> {
  const { next: way } = talk.way.service.requests[name] ?? {}
  let more: RequestValues = way !== undefined && 'offset' in way ? { offset: 0 } : name === 'fields' ? {} : { page: 1 }
  let at: string | undefined
  let count = 0
  const seen = new Set<string>()
  const begun = performance.now()
  for (let pages = 1; pages <= MOST_PAGES; pages += 1) {
    if (performance.now() - begun > longestMs) {
      yield { asked: tooSlow(pages - 1, longestMs), items: [] }
      return
    }
    const asked = await talk.client.ask(talk.way, name, { ...values, ...more }, { key: talk.key, at })
    const items = asked.means === 'done' ? itemsIn(talk.way.service, name, asked.json) : []
    count += items.length
    yield { asked, items }
    const next = asked.means === 'done' ? nextPage(talk.way.service, name, asked, { pages, items: count }) : null
    // A service that names the same page again would be read for ever.
    if (next === null || seen.has(JSON.stringify(next))) return
    seen.add(JSON.stringify(next))
    ;[more, at] = 'address' in next ? [more, next.address] : [next, undefined]
  }
}

const tooSlow = (pages: number, longestMs: number): Asked => ({
  means: 'later',
  said: `It lists more than could be read within ${longestMs / 1000} seconds: after ${pages} pages it was stopped.`,
  json: undefined,
  headers: {},
  retryAt: null,
  exchange: null,
})

import LinkHeader from 'http-link-header'
import { textAt } from './answer'
import { itemsIn } from './read'
import type { RequestName, ServiceFile } from './service-file'

/** What is filled in for the next page, or its whole address. */
export type NextPage = { cursor: string } | { page: number } | { offset: number } | { address: string }

/**
 * How the next page is asked for; null after the last.
 *
 * @param headers of the answer, by name in small letters
 * @param before how many pages and items came, this one included
 */
export function nextPage(
  service: ServiceFile,
  name: RequestName,
  { json, headers }: { json: unknown; headers: Readonly<Record<string, string>> },
  before: { pages: number; items: number },
): NextPage | null {
  const next = service.requests[name]?.next
  if (next === undefined) return null
  const isEmpty = itemsIn(service, name, json).length === 0
  if ('page' in next) return isEmpty ? null : { page: before.pages + 1 }
  if ('offset' in next) return isEmpty ? null : { offset: before.items }
  if ('link' in next) return addressOrNone(linkedNext(headers.link ?? ''))
  if ('address' in next) return addressOrNone(textAt(json, next.address))
  const cursor = 'header' in next ? headers[next.header.toLowerCase()] : textAt(json, next.cursor)
  return cursor === undefined || cursor === null || cursor === '' ? null : { cursor }
}

const addressOrNone = (address: string | null) => (address === null || address === '' ? null : { address })

/** Target of the first link with the relation type `next` in a `Link` field (RFC 8288, section 3); null for none. */
export function linkedNext(field: string): string | null {
  if (field === '' || field.length > LONGEST_LINK) return null
  try {
    const [link] = LinkHeader.parse(field).rel('next')
    return link?.uri ?? null
  } catch {
    return null
  }
}
const LONGEST_LINK = 8_000

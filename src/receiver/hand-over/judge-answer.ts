import {
  keyParts,
  type PlainRequest,
  type RequestName,
  type ServiceFile,
  type ServiceVerdict,
  verdictOnAnswer,
  withoutKey,
} from '#core/connection'
import type { GuardedAnswer } from '../outside'

/** Request, its key masked, and answer. */
export interface ServiceExchange {
  request: PlainRequest
  answer: { status: number; headers: Record<string, string>; body: string } | null
}

export interface Asked extends Omit<ServiceVerdict, 'means'> {
  /** Of the answer, by name in small letters. */
  headers: Readonly<Record<string, string>>
  /** `key-not-sent`: it was given for another address than it would go to. */
  means: ServiceVerdict['means'] | 'unreachable' | 'cannot' | 'key-not-sent'
  exchange: ServiceExchange | null
}

/** Of an answer that is shown. */
const SHOWN_LETTERS = 40_000
/** Of a long answer, so many of each list are shown, and so much of each text. */
const [SHOWN_ITEMS, SHOWN_TEXT] = [3, 200]
/** No key is longer, however it is spelt. */
const MOST_KEY = 24_000

/** What was asked, as it is shown, and with which key. */
interface AskedRequest {
  service: ServiceFile
  name: RequestName
  shown: PlainRequest
  key: string | null
}

/** What an answer means; nothing of it that could be a part of the key is left in what is shown. */
export function judgeAnswer(
  { service, name, shown, key }: AskedRequest,
  { status, headers, body: text }: Pick<GuardedAnswer, 'status' | 'headers'> & { body: string },
  now: number,
): Asked {
  const masked = (said: string) => withoutKeyOf(service, said, key)
  const fields = Object.fromEntries(Object.entries(headers).map(([field, values = []]) => [field, values.join(', ')]))
  const verdict = verdictOnAnswer(service, name, { status, headers: fields, body: text }, now)
  const isMoved = status >= 300 && status < 400
  return {
    ...verdict,
    ...(isMoved && { means: 'refused' as const }),
    said: isMoved
      ? 'It sent the request on to another address, where the key does not go.'
      : withoutKeyOf(service, verdict.said, key),
    headers: fields,
    // Masked before it is cut: half of a key is a part of it.
    exchange: {
      request: shown,
      answer: {
        status,
        headers: shownHeaders(fields, masked),
        body: masked(shownBody(text, verdict.json, masked)).slice(0, SHOWN_LETTERS),
      },
    },
  }
}

/** Headers that tell of further pages, of its pace, or of what the body is. */
const SHOWN_HEADERS = /^(?:link|retry-after|content-type|x-[\w-]{1,60}|[\w-]*(?:cursor|page|next|limit|total)[\w-]*)$/
function shownHeaders(
  headers: Readonly<Record<string, string>>,
  mask: (value: string) => string,
): Record<string, string> {
  const shown = Object.entries(headers).filter(([name]) => SHOWN_HEADERS.test(name))
  return Object.fromEntries(shown.slice(0, 40).map(([name, value]) => [name, mask(value.slice(0, 1_000))]))
}

/** An answer as it is shown: a long one with the first of each list alone, so that it stays JSON and its places stay. */
function shownBody(text: string, json: unknown, masked: (text: string) => string): string {
  if (text.length <= SHOWN_LETTERS || json === undefined) return text.slice(0, SHOWN_LETTERS + MOST_KEY)
  const short = JSON.stringify(json, (_, value: unknown) =>
    Array.isArray(value)
      ? value.slice(0, SHOWN_ITEMS)
      : typeof value === 'string' && value.length > SHOWN_TEXT
        ? // Before it is cut: what is left of a key is a part of it.
          `${masked(value.slice(0, SHOWN_TEXT + MOST_KEY)).slice(0, SHOWN_TEXT)}…`
        : value,
  )
  return short.slice(0, SHOWN_LETTERS + MOST_KEY)
}

/** A key in two parts is masked whole, and each part by itself. */
export function withoutKeyOf(service: ServiceFile, text: string, key: string | null): string {
  if (key === null || service.key.second === undefined) return withoutKey(text, key)
  return [key, ...keyParts(service.key, key)].reduce((masked: string, part) => withoutKey(masked, part), text)
}

import {
  type Connection,
  type KeyedRequest,
  type PlainRequest,
  keyParts,
  missingIn,
  requestFor,
  type RequestName,
  type ServiceFile,
  type ServiceVerdict,
  type RequestValues,
  verdictOnAnswer,
  withoutKey,
} from '#core/connection'
import type { Key } from './keys'
import { type GuardedAnswer, guardedRequest, OutsideProblem } from '../outside'

/** A connection to a service that is asked with a key. */
export type ApiWay = Extract<Connection['way'], { kind: 'api' }>

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

/** How long a service may take. */
const LONGEST_MS = 15_000
const MOST_BYTES = 8 * 1024 * 1024
/** Of an answer that is shown. */
const SHOWN_LETTERS = 40_000
/** Of a long answer, so many of each list are shown, and so much of each text. */
const [SHOWN_ITEMS, SHOWN_TEXT] = [3, 200]
/** No key is longer, however it is spelt. */
const MOST_KEY = 24_000

/** A key, and where alone it may go. */
export type SentKey = Pick<Key, 'text' | 'origins'>

export type SentRequest = { answer: GuardedAnswer } | { said: string }

export interface ServiceClient {
  /**
   * Sends one request of a service file. Resolves with the outcome; never rejects.
   *
   * @param at of a further page, its address as the service gave it: absolute, or relative to the first one's
   */
  ask(
    way: ApiWay,
    name: RequestName,
    values: RequestValues,
    by: { key: SentKey | null; at?: string | undefined },
  ): Promise<Asked>
  /** Sends something to an address that its owner gave. */
  send(request: PlainRequest): Promise<SentRequest>
}

/**
 * Speaks to outside services, as their files say.
 *
 * @param allowed origins of this computer that may be asked all the same: the stand-ins
 * @param longestMs how long a service may take
 */
export function openClient(allowed: readonly string[], now: () => number, longestMs = LONGEST_MS): ServiceClient {
  async function send({ method, address, headers, body }: PlainRequest): Promise<SentRequest> {
    try {
      const answer = await guardedRequest(address, {
        method,
        headers,
        ...(body !== null && { body: Buffer.from(body) }),
        // A key goes nowhere but where it was meant to.
        isFollowed: false,
        allowed,
        limits: { ms: longestMs, bytes: MOST_BYTES },
      })
      return { answer }
    } catch (error) {
      if (error instanceof OutsideProblem) return { said: error.message }
      throw error
    }
  }
  return {
    send,
    async ask({ service, asked }, name, values, { key, at }) {
      const request = requestFor(service, name, { ...asked, ...values }, { key: key?.text ?? null, at })
      const none = { json: undefined, headers: {}, retryAt: null, exchange: null }
      if (request === null) return { means: 'cannot', said: 'Its file does not say how.', ...none }
      const missing = at === undefined ? missingIn(service, name, { ...asked, ...values }) : null
      if (missing !== null)
        return {
          means: 'cannot',
          said: `Its address names “${missing}”, which is not known: nothing was sent.`,
          ...none,
        }
      const origin = URL.canParse(request.address) ? new URL(request.address).origin : request.address
      if (key !== null && !key.origins.includes(origin))
        return {
          means: 'key-not-sent',
          said: `The key was ${key.origins.length === 0 ? 'not given for this address' : `given for ${key.origins.join(' and ')}`}, and would go to ${origin}: it was not sent. Paste the key anew if it is meant for there.`,
          ...none,
        }
      const sent = await send(request)
      if (!('answer' in sent))
        return {
          means: 'unreachable',
          said: withoutKeyOf(service, sent.said, key?.text ?? null),
          json: undefined,
          headers: {},
          retryAt: null,
          exchange: { request: request.shown, answer: null },
        }
      return judged({ service, name, request, key: key?.text ?? null }, sent.answer, now())
    },
  }
}

function judged(
  {
    service,
    name,
    request,
    key,
  }: { service: ServiceFile; name: RequestName; request: KeyedRequest; key: string | null },
  { status, headers, body }: GuardedAnswer,
  now: number,
): Asked {
  const text = body.toString('utf8')
  const masked = (shown: string) => withoutKeyOf(service, shown, key)
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
      request: request.shown,
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
function withoutKeyOf(service: ServiceFile, text: string, key: string | null): string {
  if (key === null || service.key.second === undefined) return withoutKey(text, key)
  return [key, ...keyParts(service.key, key)].reduce((masked: string, part) => withoutKey(masked, part), text)
}

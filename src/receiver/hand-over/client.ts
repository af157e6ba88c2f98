import {
  type Connection,
  type PlainRequest,
  missingIn,
  requestFor,
  type RequestName,
  type RequestValues,
} from '#core/connection'
import type { Key } from './keys'
import { type GuardedAnswer, guardedRequest, OutsideProblem } from '../outside'
import { openReading, type Reading } from '../reading'
import { type Asked, judgeAnswer, withoutKeyOf } from './judge-answer'
import { serviceReadings } from './service-readings'

export type { Asked, ServiceExchange } from './judge-answer'

/** A connection to a service that is asked with a key. */
export type ApiWay = Extract<Connection['way'], { kind: 'api' }>

/** How long a service may take. */
const LONGEST_MS = 15_000
const MOST_BYTES = 8 * 1024 * 1024
/** Smaller answers are read at once: handing them to a thread takes longer. */
const READ_HERE_BYTES = 64 * 1024

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
 * @param reading where large answers are read
 */
export function openClient(
  allowed: readonly string[],
  now: () => number,
  {
    longestMs = LONGEST_MS,
    reading = openReading(undefined, serviceReadings),
  }: { longestMs?: number | undefined; reading?: Reading<typeof serviceReadings> } = {},
): ServiceClient {
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
      const { status, headers: fields, body } = sent.answer
      const about = { service, name, shown: request.shown, key: key?.text ?? null }
      const answer = { status, headers: fields, body: body.toString('utf8') }
      if (body.length <= READ_HERE_BYTES) return judgeAnswer(about, answer, now())
      try {
        return await reading.read('answer', about, answer, now())
      } catch (error) {
        if (!(error instanceof OutsideProblem)) throw error
        return { means: 'no-json', said: error.message, ...none, exchange: { request: request.shown, answer: null } }
      }
    },
  }
}

import { parsedJson } from '#core/json'
import { get } from 'jsonpointer'
import { statusOf } from './status'
import type { AnswerRule, Meaning, RequestName, ServiceFile } from './service-file'

/** What a service answered. */
export interface ServiceAnswer {
  status: number
  /** By name in small letters. */
  headers: Readonly<Record<string, string>>
  body: string
}

/** What an answer comes to, with what it brought. */
export interface AnswerVerdict {
  means: Meaning | 'no-json'
  /** In the service's own words, or ours where it has none. */
  said: string
  json: unknown
  /** When to try again, in milliseconds since 1970; null where it does not say. */
  retryAt: number | null
}

/** What HTTP itself says (RFC 9110, RFC 6585), where a service file says nothing else. */
/** Of somebody who is put there: accepted, and not there yet (RFC 9110, section 15.3.3). */
const accepted: AnswerRule = { status: '202', means: 'to-confirm' }
const usual: AnswerRule[] = [
  { status: '2xx', means: 'done' },
  { status: '401', means: 'key-refused' },
  { status: '403', means: 'not-allowed' },
  { status: '404', means: 'absent' },
  { status: '410', means: 'absent' },
  { status: '408', means: 'later' },
  { status: '425', means: 'later' },
  { status: '429', means: 'later' },
  { status: '5xx', means: 'later' },
]

/**
 * Reads what a service answered to one of its requests.
 *
 * @param now in milliseconds since 1970
 */
export function answerVerdict(
  service: ServiceFile,
  name: RequestName,
  answer: ServiceAnswer,
  now: number,
): AnswerVerdict {
  const request = service.requests[name]
  const json = parsedJson(answer.body)
  const isPut = name === 'put' || name === 'change'
  const rules = [...(request?.answers ?? []), ...(service.answers ?? []), ...(isPut ? [accepted] : []), ...usual]
  const told = rules.find((rule) => fits(rule, answer.status, json))?.means ?? 'refused'
  // Whoever is taken and named as waiting has yet to confirm there.
  const isWaiting = isPut && told === 'done' && statusOf(service, textAt(json, request?.read?.status)) === 'waiting'
  const means = isWaiting ? 'to-confirm' : told
  const retryAt = means === 'later' ? retryTime(answer.headers['retry-after'] ?? '', now) : null
  const said = wordsIn(service, json) ?? saidBy(answer)
  // A page of HTML that says 200 is somebody else's answer: a proxy's, or a sign-in page's.
  const needsJson = request?.read !== undefined || request?.items !== undefined || /^\s*</.test(answer.body)
  if (
    (means === 'done' || means === 'to-confirm' || means === 'already') &&
    json === undefined &&
    needsJson &&
    answer.body.trim() !== ''
  )
    return { means: 'no-json', said: `What came is no JSON: “${answer.body.trim().slice(0, 80)}”`, json, retryAt }
  return { means, said, json, retryAt }
}

/** What an answer to a request about several people says of one of them; null where it says nothing. */
export function outcomeOfOne(service: ServiceFile, item: unknown): { means: Meaning; said: string } | null {
  const rule = service.requests.putMany?.outcomes?.find((one) => fits({ ...one, status: undefined }, 0, item))
  return rule === undefined ? null : { means: rule.means, said: wordsIn(service, item) ?? '' }
}

function fits({ status, at, is }: AnswerRule, answered: number, json: unknown): boolean {
  if (status !== undefined && status !== String(answered) && !(status[1] === 'x' && status[0] === String(answered)[0]))
    return false
  if (at === undefined) return true
  const value = valueAt(json, at)
  return is === undefined ? value !== undefined : value === is
}

/** What stands at a JSON Pointer (RFC 6901); undefined where nothing does. Prototypes are no part of an answer. */
export function valueAt(json: unknown, pointer: string): unknown {
  if (pointer === '') return json
  if (json === null || typeof json !== 'object') return undefined
  if (/\/(?:__proto__|constructor|prototype)(?:\/|$)/.test(pointer)) return undefined
  return get(json, pointer) as unknown
}

/** A text at a pointer: numbers and truth values as their text, anything else as nothing. */
export function textAt(json: unknown, pointer: string | undefined): string | null {
  if (pointer === undefined) return null
  const value = valueAt(json, pointer)
  if (typeof value === 'string') return value
  return typeof value === 'number' || typeof value === 'boolean' ? String(value) : null
}

function wordsIn({ said = [] }: ServiceFile, json: unknown): string | null {
  for (const pointer of said) {
    const text = textAt(json, pointer)
    if (text !== null && text.trim() !== '') return text.slice(0, 300)
  }
  return null
}

function saidBy({ status, body }: ServiceAnswer): string {
  const text = body.trim()
  const isWords = text !== '' && text.length <= 300 && !/^[<{[]/.test(text)
  return isWords ? `${status}: ${text}` : `It gave the number ${status}, and no words.`
}

/**
 * When a `Retry-After` field (RFC 9110, section 10.2.3) says to come again: after seconds, or at a date.
 *
 * @returns milliseconds since 1970, at most a day from now; null for what is neither
 */
export function retryTime(field: string, now: number): number | null {
  const text = field.trim()
  const latest = now + LONGEST_WAIT_MS
  if (/^\d+$/.test(text)) return text.length > 9 ? latest : Math.min(latest, now + Number(text) * 1000)
  if (!/^[A-Z][a-z]+,? /.test(text)) return null
  const time = Date.parse(/GMT$/.test(text) ? text : `${text} GMT`)
  return Number.isNaN(time) ? null : Math.min(latest, Math.max(now, time))
}

/** No answer stops what waits for longer than a day: what was wrong there may be right again. */
const LONGEST_WAIT_MS = 86_400_000

import { md5 } from '@noble/hashes/legacy.js'
import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex } from '@noble/hashes/utils.js'
import { parseTemplate } from 'url-template'
import type { JsonTemplate, RequestName, ServiceFile, ServiceRequest } from './service-file'

/** What stands for a name in a request: whatever it is, it stays one value. */
export type Filled = Scalar | readonly string[] | Readonly<Record<string, Scalar>> | readonly RequestValues[]
type Scalar = string | number | boolean | null
export interface RequestValues {
  readonly [name: string]: Filled
}

/** A request as it is sent, without its key. */
export interface PlainRequest {
  method: ServiceRequest['method']
  address: string
  headers: Record<string, string>
  body: string | null
}

/** The same with its key, and how it is shown to its owner: the key masked. */
export interface KeyedRequest extends PlainRequest {
  shown: PlainRequest
}

export const MASKED = '••••'

/**
 * Writes one request of a service: its address as a URI Template (RFC 6570), its body as JSON or as
 * `application/x-www-form-urlencoded`. Values stay values: whatever they hold, method, host, path segments, names of
 * parameters and the structure of a body are the service file's.
 *
 * @param key null where the key is not known yet; of OAuth, the access token
 * @param at of a further page, its address as the service gave it: absolute, or relative to the first one's
 */
export function requestFor(
  service: ServiceFile,
  name: RequestName,
  given: RequestValues,
  { key, at }: { key: string | null; at?: string | undefined },
): KeyedRequest | null {
  const request = service.requests[name]
  if (request === undefined) return null
  const values = derived(request, given)
  const inHand = { service, request, values, at }
  const masked = service.key.second === undefined ? MASKED : `${MASKED}:${MASKED}`
  return { ...keyed(inHand, key), shown: keyed(inHand, key && masked) }
}

/**
 * What the path of a request names and is not known; null where all is. A path with a hole is another address: that of
 * nobody in particular, which to some services means everybody.
 */
export function missingIn(service: ServiceFile, name: RequestName, given: RequestValues): string | null {
  const request = service.requests[name]
  if (request === undefined) return null
  const values = derived(request, given)
  const [path = ''] = (service.base + request.address).split('?')
  const named = [...path.matchAll(/\{\/?(\w+)\}/g)].map(([, one]) => one!)
  return named.find((one) => values[one] === undefined || values[one] === null || values[one] === '') ?? null
}

/** Whether a request names somebody by an id that has to be found first. */
export const namesById = ({ requests }: ServiceFile, name: RequestName): boolean =>
  /\{[^{}"]*\bid\b[^{}"]*\}/.test(JSON.stringify(requests[name] ?? ''))

interface RequestInHand {
  service: ServiceFile
  request: ServiceRequest
  values: RequestValues
  at: string | undefined
}

function keyed({ service, request, values, at }: RequestInHand, key: string | null): PlainRequest {
  const headers: Record<string, string> = { Accept: 'application/json', ...service.headers }
  let address = withPairs(
    expanded(service.base, values) + expanded(request.address, values),
    (request.query ?? []).flatMap((part) => formPairs(part, values)),
  )
  if (at !== undefined) address = URL.canParse(at, address) ? new URL(at, address).href : address
  const pairs = request.form === undefined ? null : request.form.flatMap((part) => formPairs(part, values))
  let formPairsOfBody = pairs
  if (key !== null) {
    const { key: place } = service
    const [first, second] = keyParts(place, key)
    if (place.way === 'bearer' || place.way === 'oauth') headers.Authorization = `Bearer ${key}`
    else if (place.way === 'header') {
      headers[place.name] = (place.prefix ?? '') + first
      if (second !== null) headers[place.second!.name!] = second
    } else if (place.way === 'basic')
      headers.Authorization = `Basic ${base64(
        second !== null ? `${first}:${second}` : place.user === undefined ? `${key}:` : `${place.user}:${key}`,
      )}`
    else {
      const named: [string, string][] = [[place.name, first]]
      if (second !== null) named.push([place.second!.name!, second])
      // The address of a further page may repeat it.
      const missing = named.filter(
        ([name]) => !URL.canParse(address) || new URL(address).searchParams.get(name) === null,
      )
      if (place.way === 'query' || request.method === 'GET') address = withPairs(address, missing)
      else formPairsOfBody = [...named, ...(pairs ?? [])]
    }
  }
  if (request.json !== undefined) {
    headers['Content-Type'] ??= 'application/json'
    const json = filled(request.json as JsonTemplate, values)
    // A key that goes along in bodies stands at the top of a JSON body.
    const isTop = service.key.way === 'form' && json !== null && typeof json === 'object' && !Array.isArray(json)
    const body = isTop && formPairsOfBody !== null ? { ...Object.fromEntries(formPairsOfBody), ...json } : json
    return { method: request.method, address, headers, body: JSON.stringify(body) }
  }
  if (formPairsOfBody === null) return { method: request.method, address, headers, body: null }
  headers['Content-Type'] = 'application/x-www-form-urlencoded'
  return { method: request.method, address, headers, body: formText(formPairsOfBody) }
}

/** The parts of a key: the second is null where it has one alone. */
export function keyParts({ second }: ServiceFile['key'], key: string): [first: string, second: string | null] {
  const colon = key.indexOf(':')
  return second === undefined || colon < 0
    ? [key, second === undefined ? null : '']
    : [key.slice(0, colon), key.slice(colon + 1)]
}

const isFields = (value: Filled | undefined): value is Readonly<Record<string, Scalar>> =>
  value !== null && typeof value === 'object' && !Array.isArray(value)
const without = (fields: Readonly<Record<string, Scalar>>, keys: ReadonlySet<string | undefined>) =>
  Object.fromEntries(Object.entries(fields).filter(([key]) => !keys.has(key)))

function fieldOf(values: RequestValues, key: string): Scalar | undefined {
  const fields = values.allFields ?? values.fields
  return isFields(fields) && Object.hasOwn(fields, key) ? fields[key] : undefined
}

const withPairs = (address: string, pairs: readonly (readonly [string, string])[]) =>
  pairs.length === 0 ? address : `${address}${address.includes('?') ? '&' : '?'}${formText(pairs)}`

/**
 * What follows from other values: tags as one text, the list's id as a number, and the address as services name it that show
 * none, a hash of it in small letters. Common practice, without a source.
 */
function derived(request: ServiceRequest, values: RequestValues): RequestValues {
  const { email, list, tags, fields } = values
  // Fields that have a place of their own do not stand among the others.
  const placed = new Set([...JSON.stringify(request).matchAll(/\{fields\.([^{}"]{1,200})\}/g)].map(([, key]) => key))
  const all: Record<string, Filled> = {
    ...values,
    ...(placed.size > 0 && isFields(fields) && { allFields: fields, fields: without(fields, placed) }),
    ...(Array.isArray(tags) && { tagText: tags.join(',') }),
    // One that is none stays as it is.
    ...(typeof list === 'string' && { listNumber: /^\d{1,15}$/.test(list) ? Number(list) : list }),
  }
  if (Array.isArray(values.people))
    all.people = (values.people as readonly RequestValues[]).map((person) => derived(request, person))
  if (typeof email !== 'string' || !/email(?:Md5|Sha256)/.test(JSON.stringify(request))) return all
  const bytes = new TextEncoder().encode(email.trim().toLowerCase())
  return { ...all, emailMd5: bytesToHex(md5(bytes)), emailSha256: bytesToHex(sha256(bytes)) }
}

/** Lone surrogates are no text (RFC 3629): neither an address nor a form can hold one. */
const wellFormed = (text: string) => text.replaceAll(/\p{Surrogate}/gu, '\ufffd')

export function expanded(template: string, values: RequestValues): string {
  // A path segment of dots alone would be another path, encoded or not (RFC 3986, section 5.2.4; URL Standard); RFC 6570
  // leaves dots as they are.
  const segment = (value: string) => wellFormed(/^\.{1,2}$/.test(value) ? `${value}\u200b` : value)
  const safe = Object.fromEntries(
    Object.entries(values).flatMap(([name, value]): [string, unknown][] => {
      if (typeof value === 'string') return [[name, segment(value)]]
      if (Array.isArray(value)) return [[name, value.filter((one) => typeof one === 'string').map(segment)]]
      return [[name, value]]
    }),
  )
  return parseTemplate(template).expand(safe as Record<string, string>)
}

const WHOLE = /^\{(\w+)\}$/
/** One field that has a place of its own. */
const ONE_FIELD = /^\{fields\.([^{}]{1,200})\}$/
const PART = /\{(\w+)\}/g

/**
 * JSON with its placeholders filled in. An object `{"each": "fields", "as": …}` becomes an array with one item for each of
 * them, and within an array its items stand among the others; `"...": "{fields}"` in an object puts each field into that
 * object itself. An object's part whose value is nothing at all is left out.
 */
export function filled(template: JsonTemplate, values: RequestValues): unknown {
  if (typeof template === 'string') {
    const one = ONE_FIELD.exec(template)?.[1]
    if (one !== undefined) return fieldOf(values, one)
    const whole = WHOLE.exec(template)?.[1]
    if (whole !== undefined) return Object.hasOwn(values, whole) ? values[whole] : undefined
    return textOf(template, values)
  }
  if (Array.isArray(template))
    return template
      .flatMap((item) => (isEach(item) ? (filled(item, values) as unknown[]) : [filled(item, values)]))
      .filter((item) => item !== undefined)
  if (template === null || typeof template !== 'object') return template
  if (isEach(template)) {
    const { each, as } = template
    const all = values[each]
    if (Array.isArray(all) && all.some((one) => typeof one === 'object'))
      return (all as readonly RequestValues[]).map((one) => filled(as, { ...values, ...one }))
    return pairsOf(all).map(([key, value]) => filled(as, { ...values, key, value }))
  }
  return Object.fromEntries(
    Object.entries(template)
      .flatMap(([name, part]): (readonly [string, unknown])[] =>
        name === SPREAD ? spread(part, values) : [[name, filled(part, values)]],
      )
      .filter(([, part]) => part !== undefined),
  )
}

/** The name of an object's part whose parts are put into the object itself. */
export const SPREAD = '...'
function spread(part: JsonTemplate, values: RequestValues): (readonly [string, unknown])[] {
  const inside = filled(part, values)
  return inside === null || typeof inside !== 'object' ? [] : Object.entries(inside)
}

function isEach(template: JsonTemplate): template is { each: string; as: JsonTemplate } {
  return (
    template !== null &&
    typeof template === 'object' &&
    !Array.isArray(template) &&
    typeof template.each === 'string' &&
    template.as !== undefined
  )
}

function formPairs(
  { name, value, each }: { name: string; value: string; each?: string | undefined },
  values: RequestValues,
) {
  if (each !== undefined)
    return pairsOf(values[each]).map(([key, one]): [string, string] => [
      textOf(name, { ...values, key, value: one }),
      textOf(value, { ...values, key, value: one }),
    ])
  const one = ONE_FIELD.exec(value)?.[1]
  if (one !== undefined) {
    const field = fieldOf(values, one)
    return field === undefined || field === null ? [] : [[name, String(field)] as [string, string]]
  }
  const whole = WHOLE.exec(value)?.[1]
  if (whole !== undefined && (values[whole] === undefined || values[whole] === null)) return []
  return [[name, textOf(value, values)] as [string, string]]
}

function pairsOf(value: Filled | undefined): [string, Scalar][] {
  if (value === undefined || value === null || typeof value !== 'object') return []
  return Array.isArray(value) ? value.map((one: Scalar, at) => [String(at), one]) : Object.entries(value)
}

function textOf(template: string, values: RequestValues): string {
  return template.replaceAll(PART, (_, name: string) => {
    const value = Object.hasOwn(values, name) ? values[name] : undefined
    if (value === undefined || value === null) return ''
    return Array.isArray(value) ? value.join(',') : typeof value === 'object' ? JSON.stringify(value) : String(value)
  })
}

/** The URL Standard's serializer of `application/x-www-form-urlencoded`. */
export function formText(pairs: readonly (readonly [string, string])[]): string {
  return pairs.map(([name, value]) => `${formEncoded(name)}=${formEncoded(value)}`).join('&')
}

function formEncoded(text: string): string {
  return encodeURIComponent(wellFormed(text))
    .replaceAll('%20', '+')
    .replaceAll(/[!'()~]/g, (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase()}`)
}

function base64(text: string): string {
  return btoa(String.fromCharCode(...new TextEncoder().encode(text)))
}

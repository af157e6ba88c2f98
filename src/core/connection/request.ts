import { parseTemplate } from 'url-template'
import type { JsonTemplate, RequestName, ServiceFile, ServiceRequest } from './service-file'

/** What stands for a name in a request: whatever it is, it stays one value. */
export type Filled = string | number | boolean | null | readonly string[] | Readonly<Record<string, string>>
export type RequestValues = Readonly<Record<string, Filled>>

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
 */
export function requestFor(
  service: ServiceFile,
  name: RequestName,
  values: RequestValues,
  key: string | null,
): KeyedRequest | null {
  const request = service.requests[name]
  if (request === undefined) return null
  return { ...keyed(service, request, values, key), shown: keyed(service, request, values, key && MASKED) }
}

function keyed(service: ServiceFile, request: ServiceRequest, values: RequestValues, key: string | null): PlainRequest {
  const headers: Record<string, string> = { Accept: 'application/json', ...service.headers }
  let address = expanded(service.base, values) + expanded(request.address, values)
  const pairs = request.form === undefined ? null : request.form.flatMap((part) => formPairs(part, values))
  let formPairsOfBody = pairs
  if (key !== null) {
    const { key: place } = service
    if (place.way === 'bearer' || place.way === 'oauth') headers.Authorization = `Bearer ${key}`
    else if (place.way === 'header') headers[place.name] = (place.prefix ?? '') + key
    else if (place.way === 'basic')
      headers.Authorization = `Basic ${base64(place.user === undefined ? `${key}:` : `${place.user}:${key}`)}`
    else if (place.way === 'query') address += `${address.includes('?') ? '&' : '?'}${formText([[place.name, key]])}`
    else if (request.method === 'GET') address += `${address.includes('?') ? '&' : '?'}${formText([[place.name, key]])}`
    else formPairsOfBody = [[place.name, key], ...(pairs ?? [])]
  }
  if (request.json !== undefined) {
    headers['Content-Type'] = 'application/json'
    return {
      method: request.method,
      address,
      headers,
      body: JSON.stringify(filled(request.json as JsonTemplate, values)),
    }
  }
  if (formPairsOfBody === null) return { method: request.method, address, headers, body: null }
  headers['Content-Type'] = 'application/x-www-form-urlencoded'
  return { method: request.method, address, headers, body: formText(formPairsOfBody) }
}

/** Lone surrogates are no text (RFC 3629): neither an address nor a form can hold one. */
const wellFormed = (text: string) => text.replaceAll(/\p{Surrogate}/gu, '\ufffd')

export function expanded(template: string, values: RequestValues): string {
  // A path segment of dots alone would be another path, encoded or not (RFC 3986, section 5.2.4; URL Standard); RFC 6570
  // leaves dots as they are.
  const segment = (value: string) => wellFormed(/^\.{1,2}$/.test(value) ? `${value}\u200b` : value)
  const safe = Object.fromEntries(
    Object.entries(values).map(([name, value]) => [
      name,
      typeof value === 'string' ? segment(value) : Array.isArray(value) ? value.map(segment) : value,
    ]),
  )
  return parseTemplate(template).expand(safe as Record<string, string>)
}

const WHOLE = /^\{(\w+)\}$/
const PART = /\{(\w+)\}/g

/**
 * JSON with its placeholders filled in. An object `{"each": "fields", "as": …}` becomes an array with one item for each of
 * them; an object's part whose value is nothing at all is left out.
 */
export function filled(template: JsonTemplate, values: RequestValues): unknown {
  if (typeof template === 'string') {
    const whole = WHOLE.exec(template)?.[1]
    if (whole !== undefined) return Object.hasOwn(values, whole) ? values[whole] : undefined
    return textOf(template, values)
  }
  if (Array.isArray(template)) return template.map((item) => filled(item, values)).filter((item) => item !== undefined)
  if (template === null || typeof template !== 'object') return template
  const { each, as } = template as { each?: unknown; as?: JsonTemplate }
  if (typeof each === 'string' && as !== undefined)
    return pairsOf(values[each]).map(([key, value]) => filled(as, { ...values, key, value }))
  return Object.fromEntries(
    Object.entries(template)
      .map(([name, part]) => [name, filled(part, values)] as const)
      .filter(([, part]) => part !== undefined),
  )
}

function formPairs({ name, value, each }: { name: string; value: string; each?: string }, values: RequestValues) {
  if (each !== undefined)
    return pairsOf(values[each]).map(([key, one]): [string, string] => [
      textOf(name, { ...values, key, value: one }),
      textOf(value, { ...values, key, value: one }),
    ])
  const whole = WHOLE.exec(value)?.[1]
  if (whole !== undefined && (values[whole] === undefined || values[whole] === null)) return []
  return [[name, textOf(value, values)] as [string, string]]
}

function pairsOf(value: Filled | undefined): [string, string][] {
  if (value === undefined || value === null || typeof value !== 'object') return []
  return Array.isArray(value) ? value.map((one, at) => [String(at), String(one)]) : Object.entries(value)
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

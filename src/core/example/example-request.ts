import type { JsonTemplate } from '#core/connection'
import { parsedJson } from '#core/json'

export const exampleMethods = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] as const
export type ExampleMethod = (typeof exampleMethods)[number]

export interface Pair {
  name: string
  value: string
}

export type ExampleBody =
  { kind: 'json'; value: JsonTemplate } | { kind: 'form'; pairs: Pair[] } | { kind: 'text'; text: string }

/** A request as documentation shows it. */
export interface ExampleRequest {
  method: ExampleMethod
  /** As it is written: with its host, or from the path on. */
  address: string
  headers: Pair[]
  /** `user:password` (RFC 7617); null where none is given. */
  user: string | null
  body: ExampleBody | null
  /** Where it stands in the text, in UTF-16 units. */
  start: number
  end: number
  /** What of it was not read, in words. */
  unread: string[]
}

/** A body by its kind: JSON that parses is JSON, whatever its type is called, for that is what documentation means. */
export function bodyOf(text: string, type: string): ExampleBody | null {
  if (text === '') return null
  if (/^\s*[[{]/.test(text) || /\bjson\b/i.test(type)) {
    const value = jsonOf(text)
    if (value !== undefined) return { kind: 'json', value }
  }
  if (/^[^\s=&]+=/.test(text) && !/\bjson\b/i.test(type)) return { kind: 'form', pairs: pairsOf(text) }
  return { kind: 'text', text }
}

/** JSON as documentation writes it. */
function jsonOf(text: string): JsonTemplate | undefined {
  return (parsedJson(text) ?? parsedJson(mended(text))) as JsonTemplate | undefined
}

/** Without a comma too many, and with quotes around what is to be put in: `"list": {list_id}`. */
function mended(text: string): string {
  return text
    .replaceAll(/,(\s{0,40}[\]}])/g, '$1')
    .replaceAll(
      /([:[,]\s{0,40})(\{[A-Za-z_]\w{0,60}\}|<[A-Za-z_][\w -]{0,60}>|\$[A-Za-z_]\w{0,60})(?=\s{0,40}[,\]}])/g,
      '$1"$2"',
    )
}

/** Pairs of `application/x-www-form-urlencoded` (URL Standard, 5.1). */
export function pairsOf(text: string): Pair[] {
  return [...new URLSearchParams(text)].map(([name, value]) => ({ name, value }))
}

/** A header as it is written in one line. */
export function headerOf(line: string): Pair | null {
  const colon = line.indexOf(':')
  return colon < 1 ? null : { name: line.slice(0, colon).trim(), value: line.slice(colon + 1).trim() }
}

export const headerIn = (headers: readonly Pair[], wanted: string): string | null =>
  headers.find(({ name }) => name.toLowerCase() === wanted)?.value ?? null

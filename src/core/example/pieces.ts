import { type JsonTemplate } from '#core/connection'
import { pointerStep } from '#core/json'
import type { ExampleRequest } from './example-request'

/**
 * One value of an example request: `path/2` (a segment), `query/0`, `header/1`, `user/0` and `user/1` (what is before and
 * behind the colon), `form/3`, or `json` with a JSON Pointer (RFC 6901).
 */
export type PieceId = string

export interface Piece {
  id: PieceId
  /** What it is called there: the parameter's, header's or part's name; of a segment, the segment before it. */
  name: string
  /** As text; of an object or a list, empty. */
  value: string
  shape: 'text' | 'number' | 'yes-no' | 'nothing' | 'object' | 'list'
  /** Where it stands in the text that was read; null where it is written otherwise there. */
  span: { start: number; end: number } | null
}

/** An address in its parts, as it is written: what stands in braces may hold anything. */
export interface AddressParts {
  origin: string
  segments: string[]
  query: { name: string; value: string }[]
}

export function partsOfAddress(address: string): AddressParts {
  const whole = address.trim()
  const [before] = split(whole, '#')
  const [place, search] = split(before, '?')
  // A variable may stand for scheme and host.
  const scheme = /^[a-z][a-z0-9+.-]{0,20}:\/\//i.exec(place)?.[0] ?? /^\$(?=\{?\w)/.exec(place)?.[0] ?? ''
  const slash = scheme === '' ? 0 : place.indexOf('/', scheme.length)
  const end = slash < 0 ? place.length : slash
  return {
    origin: place.slice(0, end),
    segments: place
      .slice(end)
      .split('/')
      .filter((segment) => segment !== ''),
    query: search
      .split('&')
      .filter((pair) => pair !== '')
      .map((pair) => {
        const [name, value] = split(pair, '=')
        return { name: decoded(name), value: decoded(value) }
      }),
  }
}

/** What stands before and behind the first of a sign. */
function split(text: string, sign: string): [before: string, behind: string] {
  const at = text.indexOf(sign)
  return at < 0 ? [text, ''] : [text.slice(0, at), text.slice(at + 1)]
}

export function decoded(text: string): string {
  try {
    return decodeURIComponent(text.replaceAll('+', ' '))
  } catch {
    return text
  }
}

/** Depth to which a body is looked through. */
const DEEPEST = 8
const MOST_PIECES = 400

/** All values of a request, in the order in which they stand in it, with their places in the text. */
export function piecesOf(request: ExampleRequest, text: string): Piece[] {
  const pieces: Piece[] = []
  const find = finder(text.slice(request.start, request.end), request.start)
  const { segments, query } = partsOfAddress(request.address)
  segments.forEach((segment, at) =>
    pieces.push({
      id: `path/${at}`,
      name: segments[at - 1] ?? '',
      value: segment,
      shape: 'text',
      span: find.within('/', segment),
    }),
  )
  query.forEach(({ name, value }, at) =>
    pieces.push({ id: `query/${at}`, name, value, shape: 'text', span: find.named(name, value, '=') }),
  )
  find.again()
  request.headers.forEach(({ name, value }, at) =>
    pieces.push({
      id: `header/${at}`,
      name,
      value,
      shape: 'text',
      span: find.named(name, value.replace(/^\S+ (?=\S+$)/, ''), ':'),
    }),
  )
  find.again()
  if (request.user !== null) {
    const colon = request.user.indexOf(':')
    const parts = colon < 0 ? [request.user] : [request.user.slice(0, colon), request.user.slice(colon + 1)]
    parts.forEach((value, at) =>
      pieces.push({
        id: `user/${at}`,
        name: at === 0 ? 'user' : 'password',
        value,
        shape: 'text',
        span: value === '' ? null : find.within(at === 0 ? '' : ':', value),
      }),
    )
  }
  find.again()
  if (request.body?.kind === 'form')
    request.body.pairs.forEach(({ name, value }, at) =>
      pieces.push({ id: `form/${at}`, name, value, shape: 'text', span: find.named(name, value, '=') }),
    )
  if (request.body?.kind === 'json') jsonPieces(request.body.value, find, pieces)
  return pieces.slice(0, MOST_PIECES)
}

function jsonPieces(
  value: JsonTemplate,
  find: Finder,
  pieces: Piece[],
  place = { pointer: '', name: '', depth: 0 },
): void {
  const { pointer, name, depth } = place
  if (pieces.length >= MOST_PIECES || depth > DEEPEST) return
  const isList = Array.isArray(value)
  if (value !== null && typeof value === 'object') {
    const span = name === '' || /^\d+$/.test(pointer.split('/').at(-1)!) ? null : find.within('"', name)
    pieces.push({ id: `json${pointer}`, name, value: '', shape: isList ? 'list' : 'object', span })
    for (const [key, part] of Object.entries(value) as [string, JsonTemplate][])
      jsonPieces(part, find, pieces, {
        pointer: `${pointer}${pointerStep(key)}`,
        name: isList ? name : key,
        depth: depth + 1,
      })
    return
  }
  const shape =
    value === null ? 'nothing' : typeof value === 'number' ? 'number' : typeof value === 'boolean' ? 'yes-no' : 'text'
  const isItem = /^\d+$/.test(pointer.split('/').at(-1) ?? '')
  pieces.push({
    ...{ id: `json${pointer}`, name, value: String(value), shape },
    span: isItem ? find.within('', jsonText(value)) : find.named(name, jsonText(value), ':'),
  })
}

const jsonText = (value: string | number | boolean | null) =>
  typeof value === 'string' ? JSON.stringify(value).slice(1, -1) : String(value)

interface Finder {
  /** Where a value stands next behind a sign. */
  within(before: string, value: string): Piece['span']
  /** Where a value stands next behind its name. */
  named(name: string, value: string, sign: ':' | '='): Piece['span']
  /** From the beginning once more: documentation puts headers before or behind the address. */
  again(): void
}

/** Finds values in the text that they were read from, each behind the one before. */
function finder(text: string, offset: number): Finder {
  let from = 0
  const span = (at: number, value: string): Piece['span'] => {
    if (at < 0) return null
    from = at + value.length
    return { start: offset + at, end: offset + at + value.length }
  }
  return {
    within(before, value) {
      if (value === '') return null
      const at = text.indexOf(before + value, from)
      return span(at < 0 ? -1 : at + before.length, value)
    },
    named(name, value, sign) {
      const first = firstAt(text, name, from)
      if (first < 0) return null
      const behind = first + name.length
      for (const spelt of [
        value,
        encodeURIComponent(value),
        encodeURIComponent(value).replaceAll('%20', '+'),
        value.replaceAll('"', '\\"'),
      ]) {
        if (spelt === '') continue
        const at = text.indexOf(spelt, behind)
        // No more than quotes, spaces and the sign stand between.
        if (at >= 0 && at - behind <= 40 && text.slice(behind, at).includes(sign)) return span(at, spelt)
      }
      return null
    },
    again: () => (from = 0),
  }
}

const firstAt = (text: string, name: string, from: number) => {
  const at = text.indexOf(name, from)
  return at >= 0 ? at : text.toLowerCase().indexOf(name.toLowerCase(), from)
}

import { MASKED } from './request'

/** So long a part of a key is taken for a part of it; keys that are shorter are masked whole. */
const PART = 8

/**
 * A text without a key, however a service repeats it: as it was sent, percent-encoded (RFC 3986), as
 * `application/x-www-form-urlencoded`, escaped in JSON (RFC 8259) or HTML, in Base64 and Base64url at any offset (RFC 4648),
 * in hexadecimal, and cut anywhere. Each run of it is masked. Takes a time that grows with the text alone.
 */
export function withoutKey(text: string, key: string | null): string {
  if (key === null || key === '') return text
  const parts = partsOf(key)
  if (parts.length === 0) return text
  // Where escapes may be upper or lower case, so may be what is compared.
  const folded = text.toLowerCase()
  const covered = new Uint8Array(folded.length)
  let isAny = false
  for (const [length, all] of parts)
    for (let at = 0; at + length <= folded.length; at += 1)
      if (all.has(folded.slice(at, at + length))) {
        covered.fill(1, at, at + length)
        isAny = true
      }
  if (!isAny) return text
  // Lower case of a few letters is longer than they are: then nothing tells what stands where.
  return folded.length === text.length ? masked(text, covered) : masked(folded, covered)
}

function masked(text: string, covered: Uint8Array): string {
  let [result, from] = ['', 0]
  for (let at = 0; at < text.length; at += 1) {
    if (covered[at] === 0) continue
    let end = at
    while (covered[end] === 1) end += 1
    result += text.slice(from, at) + MASKED
    from = end
    at = end
  }
  return result + text.slice(from)
}

/** By their length, all parts of a key that are looked for, in lower case. */
function partsOf(key: string): [length: number, parts: Set<string>][] {
  const byLength = new Map<number, Set<string>>()
  for (const spelling of spellingsOf(key)) {
    const length = Math.min(PART, spelling.length)
    const parts = byLength.get(length) ?? new Set<string>()
    byLength.set(length, parts)
    const folded = spelling.toLowerCase()
    for (let at = 0; at + length <= folded.length; at += 1) parts.add(folded.slice(at, at + length))
  }
  return [...byLength]
}

/** A key as a service may repeat it. */
export function spellingsOf(key: string): string[] {
  const bytes = new TextEncoder().encode(key)
  const json = JSON.stringify(key).slice(1, -1)
  const escaped = [...key].map((letter) => (/[a-z\d]/i.test(letter) ? letter : unicodeEscaped(letter))).join('')
  const plain = [
    key,
    encodeURIComponent(key),
    encodeURIComponent(key).replaceAll('%20', '+'),
    percentEncoded(key),
    json,
    json.replaceAll('/', '\\/'),
    escaped,
    htmlEscaped(key),
    hex(bytes),
  ]
  const encoded = [0, 1, 2].flatMap((offset) => {
    const text = base64At(bytes, offset)
    const url = text.replaceAll('+', '-').replaceAll('/', '_')
    return [text, url, encodeURIComponent(text), text.replaceAll('/', '\\/')]
  })
  return [...new Set([...plain, ...encoded])].filter((spelling) => spelling !== '')
}

/** What Base64 makes of bytes that stand so far (modulo three) behind others: the letters that are theirs alone. */
function base64At(bytes: Uint8Array, offset: number): string {
  const all = new Uint8Array(offset + bytes.length)
  all.set(bytes, offset)
  const text = btoa(String.fromCharCode(...all))
  const first = offset === 0 ? 0 : offset + 1
  const last = Math.floor((all.length * 8) / 6)
  return text.slice(first, last)
}

/** Every sign that is no letter and no digit, whatever a standard leaves as it is. */
const percentEncoded = (text: string) =>
  encodeURIComponent(text).replaceAll(/[-_.!~*'()]/g, (sign) => `%${sign.charCodeAt(0).toString(16)}`)

const unicodeEscaped = (letter: string) =>
  Array.from({ length: letter.length }, (_, at) => `\\u${letter.charCodeAt(at).toString(16).padStart(4, '0')}`).join('')

const HTML: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' }
const htmlEscaped = (text: string) => text.replaceAll(/[&<>"']/g, (sign) => HTML[sign]!)

const hex = (bytes: Uint8Array) => [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('')

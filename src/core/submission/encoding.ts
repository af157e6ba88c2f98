import type { FormEntry } from './entries'

/** Bytes of a text in an encoding; null for an encoding that cannot be written here. */
export type Encoder = (text: string) => Uint8Array

/**
 * Writes texts as browsers encode them into posts: characters that an encoding does not have become numeric character
 * references. Encoding Standard, sections 4.3 and 9 (single-byte encodings).
 *
 * @returns null for an encoding of more than one byte a character other than UTF-8
 */
export function encoderFor(label: string): { name: string; encode: Encoder } | null {
  let name: string
  let decoder: TextDecoder
  try {
    decoder = new TextDecoder(label)
    name = decoder.encoding
  } catch {
    return null
  }
  // Section 4.3, "get an output encoding".
  if (name === 'utf-8' || name.startsWith('utf-16')) return { name: 'UTF-8', encode: (text) => utf8.encode(text) }
  const bytes = new Map<string, number>()
  for (let byte = 0; byte < 256; byte++) {
    const character = decodedBy(decoder, new Uint8Array([byte]))
    if ([...character].length !== 1) return null
    if (character !== '\ufffd') bytes.set(character, byte)
  }
  // Of encodings of several bytes, the lead bytes alone decode to nothing.
  if (bytes.size < 128 + 32) return null
  return {
    name,
    encode: (text) =>
      Uint8Array.from(
        [...text].flatMap((character) => {
          const byte = bytes.get(character)
          return byte === undefined ? [...`&#${character.codePointAt(0)};`].map((one) => one.charCodeAt(0)) : [byte]
        }),
      ),
  }
}

const utf8 = new TextEncoder()

/** Bytes 0x80 to 0x9f of windows-1252: Encoding Standard, index-windows-1252. */
const OF_WINDOWS_1252 =
  '\u20ac\u0081\u201a\u0192\u201e\u2026\u2020\u2021\u02c6\u2030\u0160\u2039\u0152\u008d\u017d\u008f\u0090\u2018\u2019\u201c\u201d\u2022\u2013\u2014\u02dc\u2122\u0161\u203a\u0153\u009d\u017e\u0178'

/** Decodes a page's bytes. Some versions of Node take windows-1252 for ISO 8859-1, which has no quotes and dashes. */
export function decodedBy(decoder: TextDecoder, bytes: Uint8Array): string {
  const text = decoder.decode(bytes)
  return decoder.encoding === 'windows-1252'
    ? text.replace(/[\u0080-\u009f]/g, (character) => OF_WINDOWS_1252[character.charCodeAt(0) - 0x80]!)
    : text
}

/** Section 4.10.22.7: line breaks become CR LF; a file gives its name, which is empty where nobody chose one. */
function pairsOf(entries: readonly FormEntry[]): [name: string, value: string][] {
  const lines = (text: string) => text.replace(/\r\n?|\n/g, '\r\n')
  return entries.map((entry) => [lines(entry.name), 'isFile' in entry ? '' : lines(entry.value)])
}

/** URL Standard, section 5.2. */
export function urlencoded(entries: readonly FormEntry[], encode: Encoder): string {
  const part = (text: string) =>
    Array.from(encode(text), (byte) =>
      byte === 0x20
        ? '+'
        : /[A-Za-z0-9*\-._]/.test(String.fromCharCode(byte))
          ? String.fromCharCode(byte)
          : `%${byte.toString(16).toUpperCase().padStart(2, '0')}`,
    ).join('')
  return pairsOf(entries)
    .map(([name, value]) => `${part(name)}=${part(value)}`)
    .join('&')
}

/** Section 4.10.22.8, "multipart/form-data encoding algorithm" (RFC 7578). */
export function multipart(entries: readonly FormEntry[], encode: Encoder, boundary: string): Uint8Array {
  const quoted = (text: string) => text.replace(/\n/g, '%0A').replace(/\r/g, '%0D').replace(/"/g, '%22')
  const parts = pairsOf(entries).map(([name, value], at) => {
    const disposition = `Content-Disposition: form-data; name="${quoted(name)}"`
    return 'isFile' in entries[at]!
      ? `--${boundary}\r\n${disposition}; filename=""\r\nContent-Type: application/octet-stream\r\n\r\n\r\n`
      : `--${boundary}\r\n${disposition}\r\n\r\n${value}\r\n`
  })
  return encode(`${parts.join('')}--${boundary}--\r\n`)
}

/** Section 4.10.22.9, "text/plain encoding algorithm". */
export function plain(entries: readonly FormEntry[], encode: Encoder): Uint8Array {
  return encode(
    pairsOf(entries)
      .map(([name, value]) => `${name}=${value}\r\n`)
      .join(''),
  )
}

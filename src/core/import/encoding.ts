/** Encodings that files of people come in, by their labels in the Encoding Standard. */
export type FileEncoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252'

export const encodingNames: Record<FileEncoding, string> = {
  'utf-8': 'UTF-8',
  'utf-16le': 'UTF-16',
  'utf-16be': 'UTF-16, high byte first',
  'windows-1252': 'Windows-1252',
}

/** Of so many bytes at the beginning, the encoding is guessed; all that follow may refute it: see `Utf8Check`. */
export const SAMPLE_BYTES = 256 * 1024
/** Control characters that no text has, but for tab, line feed, form feed, carriage return and escape. */
const CONTROLS = new Set(
  Array.from({ length: 32 }, (_, code) => code).filter((code) => ![9, 10, 12, 13, 27].includes(code)),
)

/**
 * Which encoding a file is in: by its byte order mark, by where zeros stand, by whether it is valid UTF-8; else
 * Windows-1252, as the Encoding Standard takes what says nothing. Null for what is no text.
 */
export function encodingOf(bytes: Uint8Array): FileEncoding | null {
  const [first, second, third] = bytes
  if (first === 0xef && second === 0xbb && third === 0xbf) return 'utf-8'
  if (first === 0xff && second === 0xfe) return 'utf-16le'
  if (first === 0xfe && second === 0xff) return 'utf-16be'
  const zeros = { even: 0, odd: 0 }
  let controls = 0
  for (const [at, byte] of bytes.entries()) {
    if (byte === 0) zeros[at % 2 === 0 ? 'even' : 'odd'] += 1
    else if (CONTROLS.has(byte)) controls += 1
  }
  const half = bytes.length / 2
  // Text in a Latin script has a zero in nearly every other byte.
  if (zeros.odd > 0.4 * half && zeros.even < 0.1 * half) return 'utf-16le'
  if (zeros.even > 0.4 * half && zeros.odd < 0.1 * half) return 'utf-16be'
  if (controls > 0.01 * bytes.length || zeros.even + zeros.odd > 0.01 * bytes.length) return null
  return isUtf8(bytes) ? 'utf-8' : 'windows-1252'
}

/** Whether a file is UTF-8 to its end, told piece by piece. */
export class Utf8Check {
  private readonly decoder = new TextDecoder('utf-8', { fatal: true })

  /** @returns whether it may still be UTF-8 */
  holds(bytes: Uint8Array, isLast: boolean): boolean {
    try {
      this.decoder.decode(bytes, { stream: !isLast })
      return true
    } catch {
      return false
    }
  }
}

function isUtf8(bytes: Uint8Array): boolean {
  try {
    // The last character may be cut in half.
    new TextDecoder('utf-8', { fatal: true }).decode(bytes, { stream: true })
    return true
  } catch {
    return false
  }
}

import { isIPv4, isIPv6 } from 'node:net'
import type { CountKey } from './counts'

/** One of the networks that an address is in, the narrowest first. */
export interface Network {
  key: CountKey
  /** By how much more than the narrowest the network may do. */
  factor: number
}

/**
 * The networks that count for an address: an IPv4 address and its 24 bits; of an IPv6 address the first 64 bits, which
 * one customer has at least, the 56 that homes and the 48 that organisations are given (RFC 6177; RFC 4291,
 * section 2.5.4). Null for this computer.
 */
export function networksOf(address: string): Network[] | null {
  // The usual ones first: parsing costs more than all the rest of counting.
  if (address === '127.0.0.1' || address === '::1') return null
  if (isIPv4(address)) return networksOf4(word4(address))
  // What a trusted proxy names otherwise counts as a whole.
  if (!isIPv6(address)) return [{ key: wordsOf(`?${address}`), factor: 1 }]
  const groups = groupsOf(address)
  const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0, g = 0, h = 0] = groups
  const high = (a << 16) | b
  const low = (c << 16) | d
  const isRest = (high | low | e) === 0
  // RFC 4291, section 2.5.3: this computer.
  if (isRest && f === 0 && g === 0 && h === 1) return null
  if (!isRest || f !== 0xffff) {
    return [
      { key: [high, low], factor: 1 },
      { key: [high ^ LEVEL_56, low & ~0xff], factor: 2 },
      { key: [high ^ LEVEL_48, low & ~0xffff], factor: 4 },
    ]
  }
  // RFC 4291, section 2.5.5.2: `::ffff:192.0.2.1` is the IPv4 address in it.
  return networksOf4((g << 16) | h)
}

function networksOf4(whole: number): Network[] | null {
  // RFC 1122, section 3.2.1.3: all of 127.
  if (whole >>> 24 === 127) return null
  return [
    { key: [whole, LEVEL_4], factor: 1 },
    { key: [whole & ~0xff, LEVEL_24], factor: 4 },
  ]
}

/** @param address valid IPv4 */
function word4(address: string): number {
  return address.split('.').reduce((word, octet) => (word << 8) | Number(octet), 0)
}

/** The eight groups of a valid IPv6 address (RFC 4291, section 2.2). Parsing packages take ten times as long, for every request. */
function groupsOf(address: string): number[] {
  const [text = ''] = address.split('%', 1)
  const dotted = /^(.*:)(\d+\.\d+\.\d+\.\d+)$/.exec(text)
  const word = dotted === null ? 0 : word4(dotted[2]!)
  const whole =
    dotted === null ? text : `${dotted[1]}${((word >>> 16) & 0xffff).toString(16)}:${(word & 0xffff).toString(16)}`
  const [before = '', after] = whole.split('::')
  const read = (part: string) => (part === '' ? [] : part.split(':').map((group) => Number.parseInt(group, 16)))
  const [first, last] = [read(before), read(after ?? '')]
  return [...first, ...Array<number>(8 - first.length - last.length).fill(0), ...last]
}

/** Any numbers that keep the levels apart. */
const LEVEL_56 = 0x56565656
const LEVEL_48 = 0x48484848
const LEVEL_4 = 0x04040404
const LEVEL_24 = 0x24242424

/** Two hashes of a text (FNV-1a, in the public domain). */
export function wordsOf(text: string): CountKey {
  let [high, low] = [0x811c9dc5, 0x01000193]
  for (let at = 0; at < text.length; at++) {
    high = Math.imul(high ^ text.charCodeAt(at), 0x01000193)
    low = Math.imul(low ^ text.charCodeAt(at), 0x85ebca6b) ^ (low >>> 15)
  }
  return [high, low]
}

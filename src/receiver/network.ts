import ipaddr from 'ipaddr.js'

/** Bits that are kept of an address: enough to tell networks apart, too few for a person. Common practice. */
const KEPT_BITS = { ipv4: 24, ipv6: 48 } as const

/** The network that an address belongs to, in CIDR notation (RFC 4632); empty for what is no address. */
export function networkOf(address: string): string {
  if (!ipaddr.isValid(address)) return ''
  const parsed = ipaddr.process(address)
  const bits = KEPT_BITS[parsed.kind()]
  const bytes = parsed.toByteArray().map((byte, at) => (at * 8 < bits ? byte : 0))
  return `${ipaddr.fromByteArray(bytes).toString()}/${bits}`
}

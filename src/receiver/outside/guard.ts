import { lookup } from 'node:dns'
import type { LookupFunction } from 'node:net'
import ipaddr from 'ipaddr.js'

/** Why something outside cannot be asked or had, in words for the owner. */
export class OutsideProblem extends Error {}

/**
 * An address that somebody typed, or that a page names.
 *
 * @throws OutsideProblem
 */
export function readAddress(address: string, from?: URL): URL {
  let url: URL
  try {
    url = new URL(address, from)
  } catch {
    throw new OutsideProblem('This is no address of a page.')
  }
  if (url.protocol !== 'http:' && url.protocol !== 'https:')
    throw new OutsideProblem('Only pages of the web can be fetched.')
  if (url.username !== '' || url.password !== '')
    throw new OutsideProblem('An address with a password in it is not fetched.')
  return url
}

/**
 * How a connection to an address is made: for all but the allowed origins, names are resolved to public addresses only, in
 * the very lookup that the connection is made by.
 *
 * @param allowed origins of this computer that may be reached all the same
 * @throws OutsideProblem for a literal address of a private network, which is connected to without any lookup
 */
export function guardOf(url: URL, allowed: readonly string[]): { lookup?: LookupFunction } {
  if (allowed.includes(url.origin)) return {}
  const host = url.hostname.replace(/^\[|\]$/g, '')
  if (ipaddr.isValid(host) && !isPublic(host)) throw new OutsideProblem(NOT_PUBLIC)
  return { lookup: publicOnly }
}

const NOT_PUBLIC = 'That address is of a private network or of this computer, where visitors cannot come.'

const publicOnly: LookupFunction = (host, options, done) =>
  lookup(host, { ...options, all: true }, (error, addresses) => {
    if (error !== null) return done(error, '')
    const [first] = addresses
    if (first === undefined || addresses.some(({ address }) => !isPublic(address)))
      return done(new OutsideProblem(NOT_PUBLIC) as NodeJS.ErrnoException, '')
    if (options.all) return done(null, addresses)
    done(null, first.address, first.family)
  })

function isPublic(address: string): boolean {
  const parsed = ipaddr.process(address)
  return parsed.range() === 'unicast'
}

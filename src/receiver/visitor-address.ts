import type { Context } from 'hono'
import { getConnInfo } from '@hono/node-server/conninfo'

/**
 * The visitor's network address. Each trusted proxy appends the address it was called from to
 * `X-Forwarded-For`, so with `hops` of them the visitor's is the `hops`-th from the right; anything further
 * left is the visitor's own claim.
 */
export function visitorAddress(c: Context, hops: number): string {
  if (hops > 0) {
    const forwarded = (c.req.header('X-Forwarded-For') ?? '').split(',').map((part) => part.trim()).filter(Boolean)
    const address = forwarded[forwarded.length - hops]
    if (address !== undefined) return address
  }
  return connection(c) ?? 'unknown'
}

function connection(c: Context): string | undefined {
  // Requests made without a socket (tests calling the app directly) have no address.
  return c.env?.incoming ? getConnInfo(c).remote.address : undefined
}

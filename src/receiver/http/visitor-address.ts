import type { Context } from 'hono'
import { getConnInfo } from '@hono/node-server/conninfo'
import type { Settings } from '../settings'
import { complain } from '../log'

/**
 * The visitor's network address. Each trusted proxy appends the address it was called from to
 * `X-Forwarded-For`, so with `hops` of them the visitor's is the `hops`-th from the right; anything further
 * left is the visitor's own claim.
 */
export function visitorAddress(c: Context, hops: number): string {
  if (hops > 0) {
    const forwarded = (c.req.header('X-Forwarded-For') ?? '')
      .split(',')
      .map((part) => part.trim())
      .filter(Boolean)
    const address = forwarded[forwarded.length - hops]
    if (address !== undefined) return address
  }
  return connection(c) ?? 'unknown'
}

function connection(c: Context): string | undefined {
  // Requests made without a socket (tests calling the app directly) have no address.
  return c.env?.incoming ? getConnInfo(c).remote.address : undefined
}

/**
 * Says once that a proxy seems to stand in front that the settings do not know: all visitors would then count as one.
 * A function to call, because a middleware would cost every sign-up more than this.
 */
export function proxyNotice(
  { trustedProxies }: Pick<Settings, 'trustedProxies'>,
  say: (line: string) => void = complain,
): (c: Context) => void {
  let isSaid = trustedProxies > 0
  return (c) => {
    if (isSaid || (c.req.header('X-Forwarded-For') === undefined && c.req.header('Forwarded') === undefined)) return
    isSaid = true
    say(
      'A proxy seems to stand in front of the receiver. Set ASKBOX_TRUST_PROXY to the number of proxies, or all visitors count as one and share one limit.',
    )
  }
}

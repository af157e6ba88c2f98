import type { Context, MiddlewareHandler } from 'hono'
import type { Holdings, Service } from './holdings'

const SLOW_MS = 20_000
const A_SECOND = 2

/** How one of the services says no. */
export interface GateRefusals {
  wrongKey(c: Context): Response | Promise<Response>
  mayNot(c: Context): Response | Promise<Response>
  slowDown(c: Context): Response | Promise<Response>
}

/** Lets requests of a service through, unless it is down, or slow, or their key opens nothing. */
export function gate(
  holdings: Holdings,
  service: Service,
  keyIn: (c: Context) => string | null,
  { wrongKey, mayNot, slowDown }: GateRefusals,
): MiddlewareHandler {
  let times: number[] = []
  return async (c, next) => {
    if (holdings.has(service, 'down')) return c.text('Down for repairs', 503)
    if (holdings.has(service, 'slow')) await new Promise((resolve) => setTimeout(resolve, SLOW_MS))
    if (holdings.has(service, 'html')) return c.html('<!doctype html><title>Sign in</title><h1>Sign in</h1>')
    // By a clock that is ahead, every key has run out.
    if (holdings.has(service, 'clock-wrong')) return wrongKey(c)
    if (holdings.has(service, 'rate-limited')) {
      const now = Date.now()
      times = times.filter((time) => time > now - 1_000)
      if (times.length >= A_SECOND) return slowDown(c)
      times.push(now)
    }
    const access = holdings.access(service, keyIn(c))
    if (access === 'none') return wrongKey(c)
    if (access === 'read' && c.req.method !== 'GET') return mayNot(c)
    return next()
  }
}

/** A stretch of something long, with where the next begins. */
export function pageOf<T>(all: readonly T[], from: number, size: number): { items: T[]; next: string | null } {
  const items = all.slice(from, from + size)
  return { items, next: from + size < all.length ? String(from + size) : null }
}

export function objectOf(value: unknown): Record<string, unknown> {
  return value !== null && typeof value === 'object' && !Array.isArray(value) ? (value as Record<string, unknown>) : {}
}

export function textsIn(value: unknown): Record<string, string> {
  return Object.fromEntries(
    Object.entries(objectOf(value)).filter((pair): pair is [string, string] => typeof pair[1] === 'string'),
  )
}

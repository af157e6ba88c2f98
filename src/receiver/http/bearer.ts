import type { Context, MiddlewareHandler } from 'hono'
import { TrieRouter } from 'hono/router/trie-router'
import { allows, api, type Grant, type Needs, type Route } from '#core/api'
import { withoutPeople } from '#core/privacy'
import { sendProblem } from './problem'

/** Who asks the owner's side. */
export interface Bearer extends Grant {
  /** Of the key; `computer` for the one of the computer itself. */
  id: string
  name: string
}

declare module 'hono' {
  interface ContextVariableMap {
    bearer: Bearer
  }
}

const REFUSALS: Record<Needs, string> = {
  nothing: '',
  see: '',
  'see-people': 'This key sees no names and addresses.',
  edit: 'This key looks on, and changes nothing.',
  own: 'This is the owner’s alone.',
}

const table = new TrieRouter<Route>()
const routes: Route[] = Object.values(api).flatMap((ofSubject) => Object.values(ofSubject))
for (const route of routes) table.add(route.method.toUpperCase(), route.path.replaceAll(/\{(\w+)\}/g, ':$1'), route)

function routeOf(method: string, path: string): Route | undefined {
  const [[found]] = table.match(method === 'HEAD' ? 'GET' : method, path) as [[Route, unknown][]]
  return found?.[0]
}

/**
 * What a path below `/api` asks of a key: as the table of routes says. What is not in it is the owner's alone, so that a
 * path that somebody forgets to enter lets nobody else in.
 */
const needsOf = (route: Route | undefined): Needs => route?.needs ?? 'own'

/**
 * Lets through whose key allows what a path needs, and takes what is people's out of the answer, as the table describes it,
 * for who sees none. The key was looked up before.
 */
export const mustAllow: MiddlewareHandler = async (c, next) => {
  const route = routeOf(c.req.method, c.req.path.replace(/^\/api/, ''))
  const needs = needsOf(route)
  if (!allows(c.get('bearer'), needs))
    return sendProblem(c, { status: 403, title: 'Not with this key', detail: REFUSALS[needs] })
  await next()
  if (route !== undefined && !allows(c.get('bearer'), 'see-people')) await hidePeople(c, route)
  return undefined
}

async function hidePeople(c: Context, { answer }: Route): Promise<void> {
  if (!/^application\/json\b/.test(c.res.headers.get('Content-Type') ?? '')) return
  const headers = new Headers(c.res.headers)
  headers.delete('Content-Length')
  c.res = new Response(JSON.stringify(withoutPeople(answer, await c.res.json())), { status: c.res.status, headers })
}

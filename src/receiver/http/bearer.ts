import type { MiddlewareHandler } from 'hono'
import { TrieRouter } from 'hono/router/trie-router'
import { allows, api, type Grant, type Needs, type Route } from '#core/api'
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

const table = new TrieRouter<Needs>()
const routes: Route[] = Object.values(api).flatMap((ofSubject) => Object.values(ofSubject))
for (const { method, path, needs } of routes)
  table.add(method.toUpperCase(), path.replaceAll(/\{(\w+)\}/g, ':$1'), needs)

/**
 * What a path below `/api` asks of a key: as the table of routes says. What is not in it is the owner's alone, so that a
 * path that somebody forgets to enter lets nobody else in.
 */
export function needsOf(method: string, path: string): Needs {
  const [[found]] = table.match(method === 'HEAD' ? 'GET' : method, path) as [[Needs, unknown][]]
  return found?.[0] ?? 'own'
}

/** Lets through whose key allows what a path needs. The key was looked up before. */
export const mustAllow: MiddlewareHandler = async (c, next) => {
  const needs = needsOf(c.req.method, c.req.path.replace(/^\/api/, ''))
  if (allows(c.get('bearer'), needs)) return next()
  return sendProblem(c, { status: 403, title: 'Not with this key', detail: REFUSALS[needs] })
}

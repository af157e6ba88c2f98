import type { z } from 'zod'
import type { Needs } from './right'

/**
 * One path of the owner's API. The receiver's routes, their description by OpenAPI and the workshop's client derive from
 * it; all of them are in `api`.
 */
export interface Route {
  readonly method: 'get' | 'post' | 'put'
  /** Below `/api`, as OpenAPI writes it: `/batches/{id}`. */
  readonly path: string
  readonly summary: string
  /** What the key must allow. */
  readonly needs: Needs
  readonly params?: z.ZodObject
  readonly query?: z.ZodObject
  readonly body?: z.ZodType
  /** The body's media type; missing is JSON. */
  readonly takes?: string
  readonly answer: z.ZodType
  /** The answer as the workshop reads it, where it must take what a newer receiver knows more; missing is `answer`. */
  readonly read?: z.ZodType
  /** The answer's media type; missing is JSON. */
  readonly type?: string
  /** What it answers besides when it does not do what was asked, by status. 401, 413, 422 and 400 go without saying. */
  readonly refusals?: Readonly<Record<number, string>>
}

export function route<const One extends Route>(one: One): One {
  return one
}

export const CONTRADICTS = { 409: 'It contradicts what is here.' } as const

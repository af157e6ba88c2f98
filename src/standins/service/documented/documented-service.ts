import type { Hono } from 'hono'
import type { Shelf } from './shelf'

/**
 * A pretend service that is told of by its documentation alone, as real ones are: nothing here knows how Ask Box reads it, and
 * no service file is made of it anywhere.
 */
export interface DocumentedService {
  name: string
  /** Of its address on the stand-ins' port. */
  path: string
  /** What opens it: in two parts for some. */
  key: readonly string[]
  shelf: Shelf
  routes(shelf: Shelf): Hono
  /** Its help page, as text. @param base its address */
  help(base: string): string
  /** Its description file, where it has one. */
  description?(base: string): string
}

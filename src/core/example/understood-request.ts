import type { RequestName } from '#core/connection'
import type { ExampleRequest } from './example-request'
import type { Piece } from './pieces'
import type { Roles } from './roles'

/** A request whose values are understood, and what it is for. */
export interface UnderstoodRequest {
  step: RequestName
  request: ExampleRequest
  pieces: readonly Piece[]
  roles: Roles
}

import type { RequestName } from '#core/connection'
import { type Piece, type PieceId, piecesOf } from './pieces'
import { readExamples } from './read-examples'
import { guessRoles, guessStep, type Role, type Roles } from './roles'
import type { UnderstoodRequest } from './understood-request'
import type { ExampleRequest } from './example-request'

/** What its owner said otherwise than it was guessed, by the number of the request in the text. */
export interface Corrections {
  roles: Readonly<Record<number, Readonly<Record<PieceId, Role>>>>
  /** Null for a request that is not needed. */
  steps: Readonly<Record<number, RequestName | null>>
}
export const noCorrections: Corrections = { roles: {}, steps: {} }

/** A request of the text with what its values stand for, and what it is for. */
export interface ReadRequest {
  number: number
  request: ExampleRequest
  pieces: Piece[]
  roles: Roles
  step: RequestName | null
}

export type Understood = { ok: true; requests: ReadRequest[]; unread: string[] } | { ok: false; message: string }

/** Reads examples and says of each request what it is for and what its values stand for; of two for the same, the first counts. */
export function understand(text: string, { roles, steps }: Corrections = noCorrections): Understood {
  const reading = readExamples(text)
  if (!reading.ok) return reading
  const taken = new Set<RequestName>()
  for (const step of Object.values(steps)) if (step !== null) taken.add(step)
  const requests = reading.requests.map((request, number): ReadRequest => {
    const pieces = piecesOf(request, text)
    const own: Roles = { ...guessRoles(request, pieces), ...roles[number] }
    const guessed = guessStep(request, own)
    const step = number in steps ? steps[number]! : guessed !== null && taken.has(guessed) ? null : guessed
    if (step !== null) taken.add(step)
    return { number, request, pieces, roles: own, step }
  })
  // What takes several takes one.
  const many = taken.has('put') ? undefined : requests.find(({ step }) => step === 'putMany')
  if (many !== undefined && !(many.number in steps)) many.step = 'put'
  return { ok: true, requests, unread: reading.unread }
}

/** Those that are needed, as a service file is made from them. */
export const neededOf = (requests: readonly ReadRequest[]): UnderstoodRequest[] =>
  requests.flatMap(({ step, request, pieces, roles }) => (step === null ? [] : [{ step, request, pieces, roles }]))

import { createHash } from 'node:crypto'
import type { Member } from '#core/list'
import { Damaged } from '../store'

/** As the last part of the JSON that is stored, so that it stays JSON: `…,"check":"<16 letters>"}`. */
const CHECK = /,"check":"([\w-]{16})"\}$/

/**
 * Digest of a row, keyed by whose it is: one that was changed behind the receiver, or put in another’s place, does not fit. It
 * finds damage, not malice: whoever can write in the store can make it too (SHA-256, its first 96 bits).
 */
function checkOf(id: string, json: string): string {
  return createHash('sha256')
    .update('askbox member\n')
    .update(id)
    .update('\n')
    .update(json)
    .digest('base64url')
    .slice(0, 16)
}

/** A member as they are stored. */
export function memberText(member: Member): string {
  const json = JSON.stringify(member)
  return `${json.slice(0, -1)},"check":"${checkOf(member.id, json)}"}`
}

/** A member as they were stored. @throws Damaged where the row is not as it was written */
export function memberOf(text: unknown): Member {
  const { json, check } = partsOf(String(text))
  let member: Member
  try {
    member = JSON.parse(json) as Member
  } catch {
    throw new Damaged('A row of somebody on a list cannot be read.')
  }
  if (typeof (member as Member | null)?.id !== 'string') throw new Damaged('A row of somebody on a list names nobody.')
  // Rows of before had no digest.
  if (check !== null && check !== checkOf(member.id, json))
    throw new Damaged(`The row of ${member.id} is not as it was written.`)
  return member
}

/** Whether the row under an id is that member’s, as it was written. */
export function isAsWritten(id: string, text: unknown): boolean {
  try {
    return memberOf(text).id === id
  } catch (error) {
    if (error instanceof Damaged) return false
    throw error
  }
}

/** Without looking whether it is as it was written; for comparing it with what somebody else has. Null where it is no JSON. */
export function uncheckedMember(text: unknown): Member | null {
  try {
    return JSON.parse(partsOf(String(text)).json) as Member
  } catch {
    return null
  }
}

function partsOf(text: string): { json: string; check: string | null } {
  const found = CHECK.exec(text)
  return found === null ? { json: text, check: null } : { json: `${text.slice(0, found.index)}}`, check: found[1]! }
}

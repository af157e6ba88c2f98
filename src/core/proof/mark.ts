/**
 * Made-up people of a rehearsal have addresses of a domain that nobody can have (RFC 2606, section 2), and in them the
 * one-time code of their rehearsal: it marks a sign-up as a test wherever it comes from, and on any kind of code.
 */
const DOMAIN = 'rehearsal.example'
export const CODE_LENGTH = 20

/** Who gets what made-up people write to the owner. */
export const REHEARSED_OWNER = 'owner'

/** Somebody's address. `who` tells the people of one rehearsal apart: small letters and digits. */
export function rehearsalAddress(code: string, who: string): string {
  return `${who}-${code}@${DOMAIN}`
}

/**
 * The code in an address, in the shape in which addresses are compared; null for everybody else. Any address of the
 * domain counts, so that one with a wrong code is refused and never joins a list.
 */
export function rehearsalCodeIn(compared: string): string | null {
  if (!compared.endsWith(`@${DOMAIN}`)) return null
  return new RegExp(`^[a-z0-9]{1,20}-([a-z0-9]{${CODE_LENGTH}})@`).exec(compared)?.[1] ?? ''
}

/**
 * "Valid email address", HTML Living Standard, section 4.10.5.1.5 (Email state, `type=email`).
 * Knowingly left out there, and so here: quoted local parts, comments and address literals of RFC 5322.
 */
export const VALID_EMAIL_ADDRESS =
  /^[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)*$/

/** RFC 5321, section 4.5.3.1.1. */
export const MAX_LOCAL_PART_OCTETS = 64
/** RFC 5321, section 4.5.3.1.2. */
export const MAX_DOMAIN_OCTETS = 255
/** RFC 5321, section 4.5.3.1.3: the path, which includes the angle brackets around the address. */
export const MAX_PATH_OCTETS = 256

/**
 * Longest input that is read at all, in UTF-16 code units, white space around it included: a few times the longest
 * address, so that a slip is still named for what it is.
 */
export const MAX_INPUT_LENGTH = 1_000

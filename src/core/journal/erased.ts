import { hmac } from '@noble/hashes/hmac.js'
import { sha256 } from '@noble/hashes/sha2.js'
import { utf8ToBytes } from '@noble/hashes/utils.js'
import type { Entry } from './entry'
import { personalText } from './mark'

/** 22 letters of base64url are 132 bits. */
const LETTERS = 22

/**
 * By which the address of somebody who was erased is known again, and from which nobody can tell it: HMAC-SHA256
 * (RFC 2104), in base64url.
 *
 * @param key of this history
 * @param compared the address as it is compared
 */
export function hashOfErased(key: string, compared: string): string {
  return lettersOf(hmac(sha256, utf8ToBytes(key), utf8ToBytes(`erased ${compared}`)))
}

/** What a personal part is committed to by: SHA-256 of its text, in base64url. */
export function commitmentTo(personal: string): string {
  return lettersOf(sha256(utf8ToBytes(personal)))
}

/** An entry without what it tells of a person. One that tells nothing is as it was. */
export function blanked(entry: Entry): Entry {
  const personal = personalText(entry)
  return personal === null ? entry : ({ ...entry, personal: null, commitment: commitmentTo(personal) } as Entry)
}

function lettersOf(bytes: Uint8Array): string {
  return btoa(String.fromCharCode(...bytes))
    .replaceAll('+', '-')
    .replaceAll('/', '_')
    .slice(0, LETTERS)
}

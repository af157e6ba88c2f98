import { readTagList } from './tag-list'

/** A public key as name servers give it, RFC 6376, section 3.6.1. */
export type DkimReading =
  | {
      state: 'key'
      /** `rsa`, or `ed25519` (RFC 8463). */
      kind: string
      /** Base64 without white space. */
      key: string
      /** The domain only tries signatures: receivers treat its mail as if it had none. */
      isTest: boolean
    }
  /** An empty key: taken back. */
  | { state: 'revoked' }
  /** No key record, or one that may not sign mail like ours. */
  | { state: 'unusable' }

export function readDkim(text: string): DkimReading {
  const tags = readTagList(text)
  // `v` may be left out; where it stands, it stands first.
  if (tags === null || !tags.has('p')) return { state: 'unusable' }
  if (tags.has('v') && (tags.get('v') !== 'DKIM1' || [...tags.keys()][0] !== 'v')) return { state: 'unusable' }
  const listed = (name: string) =>
    tags
      .get(name)
      ?.split(':')
      .map((one) => one.trim().toLowerCase())
  // Ours are signed with SHA-256, the one algorithm that RFC 8301 leaves, and are mail.
  if (listed('h')?.includes('sha256') === false) return { state: 'unusable' }
  if (listed('s')?.some((service) => service === '*' || service === 'email') === false) return { state: 'unusable' }
  const key = tags.get('p')!.replaceAll(/\s/g, '')
  if (key === '') return { state: 'revoked' }
  if (!/^[A-Za-z0-9+/]+={0,2}$/.test(key)) return { state: 'unusable' }
  return {
    state: 'key',
    kind: (tags.get('k') ?? 'rsa').toLowerCase(),
    key,
    isTest: listed('t')?.includes('y') ?? false,
  }
}

import { createPublicKey, generateKeyPairSync } from 'node:crypto'
import type { Dkim } from './settings'

/** A new key pair for a domain. 2048 bits, as RFC 8301, section 3.2, asks for. */
export function makeDkim(domain: string, selector: string): Dkim {
  const { privateKey } = generateKeyPairSync('rsa', {
    modulusLength: 2048,
    publicKeyEncoding: { type: 'spki', format: 'pem' },
    privateKeyEncoding: { type: 'pkcs8', format: 'pem' },
  })
  return { domain, selector, privateKey }
}

/** Where the public key has to stand for receivers to find it, and what (RFC 6376, sections 3.6.1 and 3.6.2.1). */
export function dkimRecord({ domain, selector, privateKey }: Dkim): { name: string; value: string } {
  const key = createPublicKey(privateKey).export({ type: 'spki', format: 'der' }).toString('base64')
  return { name: `${selector}._domainkey.${domain}`, value: `v=DKIM1; k=rsa; p=${key}` }
}

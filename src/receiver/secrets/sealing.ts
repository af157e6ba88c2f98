import { createCipheriv, createDecipheriv, createHash, randomBytes, scryptSync } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { resolve } from 'node:path'

/** Encrypts secrets in the store: keys of services, addresses of members to be removed there. */
export interface Sealing {
  /** @param about context: sealed for one, it does not open for another */
  seal(text: string, about: string): string
  /** Null for another key or context. */
  open(sealed: string, about: string): string | null
}

const VERSION = 's1'
const NONCE_BYTES = 12
const TAG_BYTES = 16

/**
 * AES-256-GCM (NIST SP 800-38D), with a nonce drawn for each.
 *
 * @param secret asked for when something is sealed or opened first: most receivers never do
 */
export function sealingWith(secret: () => string): Sealing {
  let made: Buffer | null = null
  const key = () => (made ??= createHash('sha256').update(`askbox sealing ${secret()}`).digest())
  return {
    seal(text, about) {
      const nonce = randomBytes(NONCE_BYTES)
      const cipher = createCipheriv('aes-256-gcm', key(), nonce).setAAD(Buffer.from(about))
      const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
      return `${VERSION}.${Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64url')}`
    },
    open(sealed, about) {
      const [version, text = ''] = sealed.split('.')
      const bytes = Buffer.from(text, 'base64url')
      if (version !== VERSION || bytes.length < NONCE_BYTES + TAG_BYTES) return null
      const nonce = bytes.subarray(0, NONCE_BYTES)
      const decipher = createDecipheriv('aes-256-gcm', key(), nonce).setAAD(Buffer.from(about))
      decipher.setAuthTag(bytes.subarray(NONCE_BYTES, NONCE_BYTES + TAG_BYTES))
      try {
        return Buffer.concat([decipher.update(bytes.subarray(NONCE_BYTES + TAG_BYTES)), decipher.final()]).toString()
      } catch {
        return null
      }
    },
  }
}

/** What everything is sealed with where no setting says: a file beside the data folder, so that no copy of the folder has it. */
export function secretFile(dataFolder: string): string {
  return `${resolve(dataFolder)}.secret`
}

/**
 * The secret of this receiver, made when it is needed first.
 *
 * @param fixed from `ASKBOX_SECRET`
 * @throws Error where it cannot be kept
 */
export function keptSecret(fixed: string | null, dataFolder: string): string {
  if (fixed !== null) return fixed
  const file = secretFile(dataFolder)
  if (!existsSync(file)) writeFileSync(file, `${randomBytes(32).toString('base64url')}\n`, { mode: 0o600, flag: 'wx' })
  return readFileSync(file, 'utf8').trim()
}

const SALT_BYTES = 16
/** Costs some tenth of a second: RFC 7914 with N = 2^15, r = 8, p = 1. */
const SCRYPT = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 }
const ABOUT_FILES = 'a file of keys'

/** Seals a text with a passphrase that its owner chose, for a file. */
export function sealWithPassphrase(text: string, passphrase: string): string {
  const salt = randomBytes(SALT_BYTES)
  const secret = scryptSync(passphrase, salt, 32, SCRYPT).toString('base64')
  return `${salt.toString('base64url')}.${sealingWith(() => secret).seal(text, ABOUT_FILES)}`
}

/** Null for another passphrase, or something else than `sealWithPassphrase` wrote. */
export function openWithPassphrase(sealed: string, passphrase: string): string | null {
  const at = sealed.indexOf('.')
  const salt = Buffer.from(sealed.slice(0, Math.max(0, at)), 'base64url')
  if (salt.length !== SALT_BYTES) return null
  const secret = scryptSync(passphrase, salt, 32, SCRYPT).toString('base64')
  return sealingWith(() => secret).open(sealed.slice(at + 1), ABOUT_FILES)
}

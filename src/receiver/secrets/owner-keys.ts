import { createHash, randomBytes } from 'node:crypto'
import type { Exchange, OwnersKey } from '#core/api'
import { hasPassed } from '../clock'
import type { Values } from '../values'
import { newId } from '../random'
import { isSameKey } from './owner-key'

/** Record of a key, without the key. Times in milliseconds since 1970. */
interface KeptKey {
  name: string
  hash: string
  madeAt: number
  usedAt: number
}

/** A code that pairs one browser. */
interface KeptCode {
  until: number
  isSpent: boolean
}

const KEY = 'owner key '
const CODE = 'pairing code '
const CODE_LASTS_MS = 7 * 86_400_000
/** When a key was used last is written so often at most. */
const USED_EVERY_MS = 3_600_000

/** SHA-256, base64url: keys and codes are drawn from 2^192, so nothing slower is needed. */
const hashOf = (text: string) => createHash('sha256').update(text).digest('base64url')
const drawn = () => randomBytes(24).toString('base64url')

/**
 * The keys that open the owner's side: one of the computer itself, which lies in the data folder for its own commands (or
 * comes from `ASKBOX_KEY`), and one for each browser, of which only a hash is kept. A browser gets its key for a pairing
 * code, which works once: what stays in its history opens nothing.
 */
export class OwnerKeys {
  private known: Promise<Map<string, KeptKey & { id: string }>> | null = null

  constructor(
    private readonly values: Values,
    private readonly ownKey: string,
    private readonly now: () => number,
  ) {}

  /** The id of the key that was given; empty for the computer's own, null for none of ours. */
  async idOf(given: string): Promise<string | null> {
    if (isSameKey(given, this.ownKey)) return ''
    const key = (await this.all()).get(hashOf(given))
    if (key === undefined) return null
    if (hasPassed(key.usedAt, USED_EVERY_MS, this.now())) {
      key.usedAt = this.now()
      const { id, ...kept } = key
      await this.values.change<KeptKey>(KEY + id, (before) => (before === null ? undefined : kept))
    }
    return key.id
  }

  /** Those of browsers, the newest first. */
  async list(): Promise<Omit<OwnersKey, 'isThis'>[]> {
    const keys = [...(await this.all()).values()]
    return keys
      .map(({ id, name, madeAt, usedAt }) => ({ id, name, madeAt, usedAt }))
      .toSorted((one, other) => other.madeAt - one.madeAt)
  }

  /** Requests with it are refused from now on. */
  async withdraw(id: string): Promise<void> {
    await this.values.drop(KEY + id)
    this.known = null
  }

  /** A new code, and until when it works. */
  async newCode(): Promise<{ code: string; until: number }> {
    const code = drawn()
    const until = this.now() + CODE_LASTS_MS
    await this.values.keep(CODE + hashOf(code), { until, isSpent: false } satisfies KeptCode, until)
    return { code, until }
  }

  /** Exchanges a code for a key of the browser's own, once. */
  async exchange(code: string, name: string): Promise<Exchange | 'spent' | 'unknown'> {
    const place = CODE + hashOf(code)
    const stored = (await this.values.value(place)) as KeptCode | null
    if (stored === null) return 'unknown'
    // In one change, so that of two who bring it at once one gets a key.
    const found = { isTaken: false }
    await this.values.change<KeptCode>(
      place,
      (before) => {
        found.isTaken = before?.isSpent === false
        return before === null ? undefined : { ...before, isSpent: true }
      },
      stored.until,
    )
    if (!found.isTaken) return 'spent'
    const key = drawn()
    const id = newId<string>()
    const at = this.now()
    await this.values.keep(KEY + id, { name, hash: hashOf(key), madeAt: at, usedAt: at } satisfies KeptKey)
    this.known = null
    return { key, id }
  }

  private all(): Promise<Map<string, KeptKey & { id: string }>> {
    this.known ??= this.values.named(KEY).then(
      (found) =>
        new Map(
          found.map(({ name, value }) => {
            const kept = value as KeptKey
            return [kept.hash, { ...kept, id: name.slice(KEY.length) }]
          }),
        ),
    )
    // What could not be read is read anew.
    this.known.catch(() => (this.known = null))
    return this.known
  }
}

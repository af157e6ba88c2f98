import { createHash, randomBytes } from 'node:crypto'
import type { Exchange, Grant, KeyGrant, OpenAddress, OwnersKey } from '#core/api'
import { hasPassed } from '../clock'
import type { Values } from '../values'
import { newId } from '../random'
import type { Bearer } from '../http/bearer'
import { isSameKey } from './owner-key'

/** Record of a key, without the key. Times in milliseconds since 1970. */
interface KeptKey extends Partial<Grant> {
  name: string
  hash: string
  madeAt: number
  usedAt: number
  withdrawnAt?: number
  /** When it ends by itself; missing for never. */
  endsAt?: number | null
}
type KnownKey = KeptKey & { id: string }

/** A code that pairs one browser. */
interface KeptCode {
  until: number
  isSpent: boolean
  grant?: KeyGrant
  /** Missing of those that are older than the list of them. */
  madeAt?: number
  /** Id of the key that it was made with; null for the address that a start prints. */
  by?: string | null
}

const KEY = 'owner key '
const CODE = 'pairing code '
const CODE_LASTS_MS = 7 * 86_400_000
/** What a start prints may stand in a log for ever. */
const START_CODE_LASTS_MS = 3_600_000
/** When a key was used last is written so often at most. */
const USED_EVERY_MS = 3_600_000
/** For how long a receiver may not have heard that another one withdrew a key. */
const KNOWN_FOR_MS = 1_000
/** So long it is told apart from a key that never was: whoever brings it empties their browser. */
const WITHDRAWN_KEPT_MS = 2 * 365 * 86_400_000

const ALL: KeyGrant = { name: '', right: 'owner', seesPeople: true }
/** Keys from before there were rights are owners'. */
const grantOf = ({ right = 'owner', seesPeople = true }: Partial<Grant>): Grant => ({
  right,
  seesPeople: seesPeople || right !== 'reader',
})

/** SHA-256, base64url: keys and codes are drawn from 2^192, so nothing slower is needed. */
const hashOf = (text: string) => createHash('sha256').update(text).digest('base64url')
const drawn = () => randomBytes(24).toString('base64url')

/**
 * The keys that open the owner's side: one of the computer itself, which lies in the data folder for its own commands (or
 * comes from `ASKBOX_KEY`), and one for each browser, of which only a hash is kept. A browser gets its key for a pairing
 * code, which works once: what stays in its history opens nothing.
 */
export class OwnerKeys {
  private known: { at: number; keys: Promise<Map<string, KnownKey>> } | null = null
  private readonly onWithdrawn = new Set<() => void>()

  constructor(
    private readonly values: Values,
    private readonly ownKey: string,
    private readonly now: () => number,
  ) {}

  /** Whether it is the computer's own key, or one of those that were read within the last second. */
  async isInMemory(given: string): Promise<boolean> {
    if (isSameKey(given, this.ownKey)) return true
    return (await this.all()).has(hashOf(given))
  }

  /** Whose key was given; null for none of ours. */
  async bearerOf(given: string): Promise<Bearer | 'withdrawn' | null> {
    if (isSameKey(given, this.ownKey)) return { id: 'computer', name: 'The computer’s own key', ...grantOf({}) }
    const hash = hashOf(given)
    // One that is not known may have been made by another receiver just now.
    const key = (await this.all()).get(hash) ?? (await this.all(true)).get(hash)
    if (key === undefined) return null
    if (key.withdrawnAt !== undefined || (key.endsAt ?? Infinity) <= this.now()) return 'withdrawn'
    const usedAt = this.now()
    if (hasPassed(key.usedAt, USED_EVERY_MS, usedAt)) {
      key.usedAt = usedAt
      await this.values.change<KeptKey>(KEY + key.id, (before) => (before === null ? undefined : { ...before, usedAt }))
    }
    return { id: key.id, name: key.name, ...grantOf(key) }
  }

  /** Those of browsers, the newest first. */
  async list(): Promise<Omit<OwnersKey, 'isThis'>[]> {
    const keys = [...(await this.all()).values()]
    return keys
      .map(({ id, name, madeAt, usedAt, endsAt = null, withdrawnAt = null, ...key }) => ({
        ...{ id, name, ...grantOf(key) },
        ...{ madeAt, usedAt, until: endsAt, withdrawnAt },
      }))
      .toSorted((one, other) => other.madeAt - one.madeAt)
  }

  /** Requests with it are refused from now on; those that are still open are ended. */
  async withdraw(id: string): Promise<void> {
    const at = this.now()
    await this.values.change<KeptKey>(
      KEY + id,
      (before) => (before === null ? undefined : { ...before, withdrawnAt: before.withdrawnAt ?? at }),
      at + WITHDRAWN_KEPT_MS,
    )
    this.known = null
    for (const told of this.onWithdrawn) told()
  }

  /** Calls at each withdrawal here, until the returned function is called. */
  whenWithdrawn(told: () => void): () => void {
    this.onWithdrawn.add(told)
    return () => this.onWithdrawn.delete(told)
  }

  /** A new code for a key with such rights, and until when it works. @param by id of the key that it is made with */
  newCode(grant: KeyGrant, by: string): Promise<{ code: string; until: number }> {
    return this.keptCode({ grant, by }, CODE_LASTS_MS)
  }

  /** The code that a start prints: it ends the one that was printed before. */
  async newStartCode(): Promise<string> {
    const all = await this.values.named(CODE)
    for (const { name, value } of all) {
      const { by, isSpent } = value as KeptCode
      if (by === null && !isSpent) await this.values.drop(name)
    }
    return (await this.keptCode({ grant: ALL, by: null }, START_CODE_LASTS_MS)).code
  }

  private async keptCode(about: Pick<KeptCode, 'grant' | 'by'>, ms: number): Promise<{ code: string; until: number }> {
    const code = drawn()
    const madeAt = this.now()
    const until = madeAt + ms
    await this.values.keep(CODE + hashOf(code), { ...about, madeAt, until, isSpent: false } satisfies KeptCode, until)
    return { code, until }
  }

  /** Codes that would still open the house, the newest first; each is known by its hash. */
  async openCodes(): Promise<OpenAddress[]> {
    const [codes, keys] = [await this.values.named(CODE), await this.list()]
    return codes
      .flatMap(({ name, value }) => {
        const { until, isSpent, grant = ALL, madeAt = until - CODE_LASTS_MS, by } = value as KeptCode
        if (isSpent || until <= this.now()) return []
        const maker = by === null ? null : (keys.find(({ id }) => id === by)?.name ?? 'The computer’s own key')
        return [{ id: name.slice(CODE.length), ...grant, madeAt, until, by: maker }]
      })
      .toSorted((one, other) => other.madeAt - one.madeAt)
  }

  /** One that was not used yet works no more. */
  async shut(id: string): Promise<void> {
    const kept = (await this.values.value(CODE + id)) as KeptCode | null
    if (kept?.isSpent === false) await this.values.drop(CODE + id)
  }

  /**
   * Exchanges a code for a key of the browser's own, once.
   *
   * @param browser what the browser calls itself
   */
  async exchange(code: string, browser: string): Promise<Exchange | 'spent' | 'unknown'> {
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
    const { name, right, seesPeople, endsAt = null } = stored.grant ?? ALL
    const kept = { name: name || browser, right, seesPeople, hash: hashOf(key), madeAt: at, usedAt: at, endsAt }
    await this.values.keep(KEY + id, kept satisfies KeptKey)
    this.known = null
    return { key, id }
  }

  /** @param isAnew whatever was read before */
  private all(isAnew = false): Promise<Map<string, KnownKey>> {
    // By the steady clock: it is the same process that asks again.
    const at = performance.now()
    if (this.known !== null && !isAnew && at - this.known.at < KNOWN_FOR_MS) return this.known.keys
    const keys = this.values.named(KEY).then(
      (stored) =>
        new Map(
          stored.map(({ name, value }) => {
            const kept = value as KeptKey
            return [kept.hash, { ...kept, id: name.slice(KEY.length) }]
          }),
        ),
    )
    this.known = { at, keys }
    // What could not be read is read anew.
    keys.catch(() => (this.known = null))
    return keys
  }
}

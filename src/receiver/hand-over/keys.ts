import { type Connection, originsOf } from '#core/connection'
import type { ConnectionId } from '#core/ids'
import type { Ledger } from '../ledger'
import type { BreakerState } from './breaker'
import { openWithPassphrase, type Sealing, sealWithPassphrase } from '../secrets'

/** What opens an outside service: a key as it was pasted, or what signing in there brought. */
export interface Key {
  /** Sent with each request. */
  text: string
  /** Where it may go: it was given for these. Of a secret that is only signed with, none. */
  origins: readonly string[]
  /** Of signing in: what another one is had for, and when this one ends, in milliseconds since 1970. */
  refresh?: string
  until?: number
  /** Of webhooks: the secret before this one, signed with as well until a time. */
  before?: { text: string; until: number }
}

/** State of a connection, shared by all processes. */
export interface ConnectionState {
  /** Why nothing goes there until its owner does something; missing while it goes. */
  halted?: { at: number; means: string; said: string }
  breaker?: BreakerState
  /** Why what went last has to wait; missing once something went. */
  putOff?: { at: number; said: string; due: number }
  /** Since when somebody waits and nobody has gone, once that is long; missing once somebody went. */
  stillSince?: number | undefined
}

const keyName = (id: ConnectionId) => `connection-key ${id}`
const stateName = (id: ConnectionId) => `connection-state ${id}`
/** When a service was last heard from, in milliseconds since 1970. */
export const HEARD = 'heard from service '
export const heardName = (id: string) => HEARD + id

/** Keys of connections: sealed where they lie, opened for a request, told to nobody. */
export class Keys {
  constructor(
    private readonly ledger: Ledger,
    private readonly sealing: Sealing,
  ) {}

  /** Null where there is none, or where it was sealed by another secret than this receiver's. */
  async key(id: ConnectionId): Promise<Key | null> {
    const sealed = await this.ledger.values.value(keyName(id))
    const text = typeof sealed === 'string' ? this.sealing.open(sealed, keyName(id)) : null
    // Kept without: it has to be given anew.
    return text === null ? null : { origins: [], ...(JSON.parse(text) as Omit<Key, 'origins'> & Partial<Key>) }
  }

  async has(id: ConnectionId): Promise<'yes' | 'no' | 'unreadable'> {
    if ((await this.ledger.values.value(keyName(id))) === null) return 'no'
    return (await this.key(id)) === null ? 'unreadable' : 'yes'
  }

  /** Keeps a key for the origins of its connection as it stands. */
  async keepFor(connection: Connection, text: string): Promise<void> {
    await this.keep(connection.id, { text, origins: originsOf(connection.way) })
  }

  /** Keeps a key; null takes it away. */
  async keep(id: ConnectionId, key: Key | null): Promise<void> {
    if (key === null) await this.ledger.values.drop(keyName(id))
    else await this.ledger.values.keep(keyName(id), this.sealing.seal(JSON.stringify(key), keyName(id)))
    await this.goOn(id)
  }

  /** All keys of connections that are there, under a passphrase. */
  async asFile(passphrase: string): Promise<string> {
    const all: Record<string, Key> = {}
    for (const { id } of this.ledger.published().connections()) {
      const key = await this.key(id)
      if (key !== null) all[id] = key
    }
    return sealWithPassphrase(JSON.stringify(all), passphrase)
  }

  /** Takes them in again, for connections that are there; null for another passphrase, or no such file. */
  async takeFile(sealed: string, passphrase: string): Promise<ConnectionId[] | null> {
    const text = openWithPassphrase(sealed.trim(), passphrase)
    if (text === null) return null
    const taken: ConnectionId[] = []
    for (const [id, key] of Object.entries(JSON.parse(text) as Record<ConnectionId, Key>)) {
      if (this.ledger.published().connection(id) === null) continue
      await this.keep(id as ConnectionId, key)
      taken.push(id as ConnectionId)
    }
    return taken
  }

  async state(id: ConnectionId): Promise<ConnectionState> {
    return ((await this.ledger.values.value(stateName(id))) ?? {}) as ConnectionState
  }

  async halt(id: ConnectionId, halted: NonNullable<ConnectionState['halted']>): Promise<void> {
    await this.ledger.values.change<ConnectionState>(stateName(id), (before) => ({
      ...before,
      halted: before?.halted?.means === halted.means ? before.halted : halted,
    }))
  }

  async keepState(
    id: ConnectionId,
    changes: Pick<ConnectionState, 'breaker' | 'putOff' | 'stillSince'>,
  ): Promise<void> {
    await this.ledger.values.change<ConnectionState>(stateName(id), (before) => ({ ...before, ...changes }))
  }

  async goOn(id: ConnectionId): Promise<void> {
    await this.ledger.values.drop(stateName(id))
  }

  async forget(id: ConnectionId): Promise<void> {
    await this.ledger.values.drop(keyName(id))
    await this.ledger.values.drop(stateName(id))
    await this.ledger.values.drop(heardName(id))
  }
}

const FORGOTTEN_AFTER_MS = 30 * 86_400_000

/** Forgets keys of connections that were taken away. Taking one away can be undone, so not at once. */
export async function forgetGone(ledger: Ledger, keys: Keys, now: () => number = Date.now): Promise<void> {
  const published = ledger.published()
  for (const { name } of await ledger.values.named('connection-key ')) {
    const id = name.slice('connection-key '.length) as ConnectionId
    if (published.connection(id) !== null) {
      await ledger.values.drop(`connection-gone ${id}`)
      continue
    }
    const since = Number((await ledger.values.value(`connection-gone ${id}`)) ?? 0)
    if (since === 0) await ledger.values.keep(`connection-gone ${id}`, now())
    else if (now() - since > FORGOTTEN_AFTER_MS) await keys.forget(id)
  }
}

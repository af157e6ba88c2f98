import { createHmac, hkdfSync, randomBytes } from 'node:crypto'
import { z } from 'zod'
import { hashOfErased } from '#core/journal'
import { hasPassed } from '../clock'
import { complain } from '../log'
import type { MarkKeys, MarkPurpose } from '../marks'
import type { Values } from '../values'
import { openWithPassphrase, type Sealing, sealWithPassphrase } from './sealing'

/** 256 bits, base64url. */
const keyText = z.string().regex(/^[\w-]{43}$/)

/** What keys of purposes are derived from. Times in milliseconds since 1970. */
const rootSchema = z.strictObject({
  key: keyText,
  madeAt: z.int(),
  /** Id of the key that it was made anew with; null where it was made by itself. */
  by: z.string().max(60).nullable(),
  /** Of the time before keys were derived: it is the key of every purpose itself. */
  isPlain: z.literal(true).optional(),
  /** Somebody else may have it: it is good for leaving alone. */
  isSuspect: z.literal(true).optional(),
})
type Root = z.infer<typeof rootSchema>

/** The newest first in each list. */
const recordSchema = z.strictObject({
  links: z.array(rootSchema).min(1).max(200),
  /** What addresses that services call back are marked with. */
  services: z.array(rootSchema).min(1).max(200),
  /** What addresses of erased people are hashed with; never made anew, because what was hashed is gone. */
  erased: z.array(rootSchema).min(1).max(200),
  /** How often a connection's address was made anew, when last and with which key, by the connection's id. */
  anew: z.record(z.string(), z.strictObject({ times: z.int(), at: z.int(), by: z.string().max(60) })),
})
type KeyRecord = z.infer<typeof recordSchema>

const NAME = 'link keys'
/** Records that this receiver's secret did not open, kept for the day on which it does. */
const SET_ASIDE = 'link keys set aside '
/** For how long a receiver may not have heard that another one made them anew. */
const KNOWN_FOR_MS = 1_000
/** 162 bits: knowing the address is the permission. */
const SERVICE_LETTERS = 27
const YEAR_MS = 365 * 86_400_000

/** What is told of the keys, which nobody is told. */
export interface LinkKeysStanding {
  madeAt: number
  /** Id of the key that it was made anew with; null where it was made by itself. */
  by: string | null
  /** When keys were made that are good for leaving alone. */
  suspects: number[]
  /** Whether there are keys that this receiver's secret does not open: links that they marked lead nowhere. */
  hasUnopened: boolean
}

/** Keys of one moment. */
export interface LinkKeys extends MarkKeys {
  /** The key of what an answer's page passes on. */
  passing(): string
  /** Marks in the address that a service calls back, the one that is told first. */
  serviceMarks(connection: string): string[]
  /** When the address that a service calls back was made anew last, and by which key; null for never. */
  serviceAnew(connection: string): { at: number; by: string } | null
  /** Hashes of somebody's compared address, as they may stand among those of erased people; the newest key's first. */
  erasedHashes(compared: string): string[]
}

/**
 * The keys that links in mails are marked with: sealed in the store, told to nobody, and one for each purpose, derived from
 * one that is drawn (HKDF, RFC 5869). Made anew each year; those of before stay good for what they marked.
 */
export class KeptLinkKeys {
  private known: { at: number; keys: Promise<LinkKeys> } | null = null

  constructor(
    private readonly values: Values,
    private readonly sealing: Sealing,
    private readonly sureNow: () => number,
  ) {}

  now(): Promise<LinkKeys> {
    // By the steady clock: it is the same process that asks again.
    const at = performance.now()
    if (this.known !== null && at - this.known.at < KNOWN_FOR_MS) return this.known.keys
    const keys = this.record().then(keysFrom)
    this.known = { at, keys }
    keys.catch(() => (this.known = null))
    return keys
  }

  async standing(): Promise<LinkKeysStanding> {
    const [{ links }, aside] = [await this.record(), await this.values.named(SET_ASIDE)]
    const { madeAt, by } = links[0]!
    return {
      ...{ madeAt, by },
      suspects: links.filter(({ isSuspect }) => isSuspect).map(({ madeAt }) => madeAt),
      hasUnopened: aside.length > 0,
    }
  }

  /** After a suspicion: what was marked until now is good for leaving alone. @param by id of the key that asked for it */
  async makeAnew(by: string): Promise<void> {
    await this.change((record) => ({
      ...record,
      links: [this.drawn(by), ...record.links.map((root) => ({ ...root, isSuspect: true as const }))],
    }))
  }

  /** The address that a connection's service calls back is another from now on. */
  async makeServiceAnew(connection: string, by: string): Promise<void> {
    await this.change(({ anew, ...record }) => {
      const times = (anew[connection]?.times ?? 0) + 1
      return { ...record, anew: { ...anew, [connection]: { times, at: this.sureNow(), by } } }
    })
  }

  /** Takes in the key of a time before they were sealed. */
  takePlain(key: string): Promise<void> {
    const root: Root = { key, madeAt: 0, by: null, isPlain: true }
    return this.take({ links: [root], services: [root], erased: [root], anew: {} })
  }

  /** All of them under a passphrase, for a file. */
  async sealedWith(passphrase: string): Promise<string> {
    return sealWithPassphrase(JSON.stringify(await this.record()), passphrase)
  }

  /** Takes in what `sealedWith` wrote; false for another passphrase, or something else. */
  async takeSealed(sealed: string, passphrase: string): Promise<boolean> {
    const text = openWithPassphrase(sealed, passphrase)
    const record = text === null ? null : parsedRecord(text)
    if (record === null) return false
    await this.take(record)
    return true
  }

  /** Puts keys beside those that are here: what either marked is good. */
  private async take(taken: KeyRecord): Promise<void> {
    await this.change((record) => ({
      links: together(record.links, taken.links),
      // Of these the ones that come are in use: at services, and in the journal that comes with them.
      services: together(taken.services, record.services, false),
      erased: together(taken.erased, record.erased, false),
      anew: { ...record.anew, ...taken.anew },
    }))
  }

  private async record(): Promise<KeyRecord> {
    const sealed = await this.values.value(NAME)
    const record = typeof sealed === 'string' ? this.opened(sealed, NAME) : null
    if (record === null) return this.change((begun) => begun)
    const isOld = ({ links }: KeyRecord) => hasPassed(links[0]!.madeAt, YEAR_MS, this.sureNow())
    if (!isOld(record)) return record
    return this.change((before) => (isOld(before) ? { ...before, links: [this.drawn(null), ...before.links] } : before))
  }

  /** In one transaction, so that receivers that begin at once begin with the same. */
  private async change(changed: (record: KeyRecord) => KeyRecord): Promise<KeyRecord> {
    let unopened: string | null = null
    let after: KeyRecord | null = null
    await this.values.change<string>(NAME, (sealed) => {
      const before = sealed === null ? null : this.opened(sealed, NAME)
      unopened = before === null ? sealed : null
      after = changed(before ?? this.begun())
      return this.sealing.seal(JSON.stringify(after), NAME)
    })
    this.known = null
    if (unopened !== null) {
      await this.values.keep(SET_ASIDE + String(this.sureNow()), unopened)
      complain(
        new Error(
          'The key of links in mails was sealed with another secret: links that it marked lead nowhere until Ask Box is started with that secret (ASKBOX_SECRET, or the file beside the data folder).',
        ),
      )
    }
    return after!
  }

  /** Takes in what an earlier start could not open, where this one can. To be called at the start. */
  async openSetAside(): Promise<void> {
    for (const { name, value } of await this.values.named(SET_ASIDE)) {
      const record = typeof value === 'string' ? this.opened(value, NAME) : null
      if (record === null) continue
      await this.take(record)
      await this.values.drop(name)
    }
  }

  private opened(sealed: string, about: string): KeyRecord | null {
    const text = this.sealing.open(sealed, about)
    return text === null ? null : parsedRecord(text)
  }

  private begun(): KeyRecord {
    return { links: [this.drawn(null)], services: [this.drawn(null)], erased: [this.drawn(null)], anew: {} }
  }

  private drawn(by: string | null): Root {
    return { key: randomBytes(32).toString('base64url'), madeAt: this.sureNow(), by }
  }
}

function parsedRecord(text: string): KeyRecord | null {
  try {
    const reading = recordSchema.safeParse(JSON.parse(text))
    return reading.success ? reading.data : null
  } catch {
    return null
  }
}

/** Each root once; suspected where either side suspects it. @param byAge whether the newest is to be first */
function together(first: readonly Root[], second: readonly Root[], byAge = true): Root[] {
  const all = new Map<string, Root>()
  for (const root of [...first, ...second]) {
    const same = all.get(root.key)
    all.set(
      root.key,
      same?.isSuspect === true ? same : { ...root, ...same, ...(root.isSuspect && { isSuspect: true }) },
    )
  }
  const roots = [...all.values()]
  return byAge ? roots.toSorted((one, other) => other.madeAt - one.madeAt) : roots
}

type Purpose = MarkPurpose | 'passing' | 'services' | 'erased'

/** HKDF-SHA-256 (RFC 5869) with the purpose as its context; roots are drawn evenly, so there is no salt. */
function derived({ key, isPlain }: Root, purpose: Purpose): string {
  if (isPlain) return key
  const bytes = hkdfSync('sha256', Buffer.from(key, 'base64url'), Buffer.alloc(0), `askbox ${purpose}`, 32)
  return Buffer.from(bytes).toString('base64url')
}

function keysFrom({ links, services, erased, anew }: KeyRecord): LinkKeys {
  const byPurpose = new Map<Purpose, readonly string[]>()
  const allOf = (purpose: Purpose, roots: readonly Root[]) => {
    const before = byPurpose.get(purpose)
    if (before !== undefined) return before
    const made = roots.map((root) => derived(root, purpose))
    byPurpose.set(purpose, made)
    return made
  }
  const trusted = links.filter(({ isSuspect }) => isSuspect !== true)
  const accepted = (purpose: MarkPurpose) => allOf(purpose, purpose === 'leave' ? links : trusted)
  return {
    newest: (purpose) => accepted(purpose)[0]!,
    accepted,
    passing: () => allOf('passing', trusted)[0]!,
    serviceMarks(connection) {
      const times = anew[connection]?.times ?? 0
      const marked = `back ${connection}${times === 0 ? '' : ` ${times}`}`
      return allOf('services', services).map((key) =>
        createHmac('sha256', key).update(marked).digest('base64url').slice(0, SERVICE_LETTERS),
      )
    },
    serviceAnew: (connection) => anew[connection] ?? null,
    erasedHashes: (compared) => allOf('erased', erased).map((key) => hashOfErased(key, compared)),
  }
}

import {
  createWriteStream,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs'
import { isAbsolute, join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import type { MoveState } from '#core/api'
import { fileIdSchema } from '#core/mail'
import { CARE_FILE, type CareFile } from '../care'
import { openSharedFiles } from '../gifts'
import { complain } from '../log'
import type { Settings } from '../settings'
import { readPostgresAddress, type SwitchableEngine } from '../store'
import { type Engine, openSharedStore, openStore, type Transaction } from '../subjects'
import { move } from './move'

/** Says in a data folder that its store is elsewhere now, so that no start goes on with the old one. */
const MOVED_FILE = 'moved.json'
/** The same in a database, as a value. */
const MOVED_VALUE = 'moved to'

/** Where a data folder's store was moved to, in words; null where it is still its own. */
export function movedTo(folder: string): string | null {
  const file = join(folder, MOVED_FILE)
  if (!existsSync(file)) return null
  try {
    return (JSON.parse(readFileSync(file, 'utf8')) as { to: string }).to
  } catch {
    return 'another place'
  }
}

/** The same of a database. */
export async function databaseMovedTo(engine: Engine): Promise<string | null> {
  return (await engine.now.value(MOVED_VALUE, 0)) as string | null
}

export interface MoverParts {
  engine: SwitchableEngine<Transaction>
  settings: Pick<Settings, 'dataFolder' | 'database' | 'secret'>
  care: CareFile
  now(): number
}

/** Moves the store to the other kind of engine while the receiver goes on, and goes on there. One at a time. */
export class Mover {
  private kept: MoveState = { state: 'none' }

  constructor(private readonly parts: MoverParts) {}

  state(): MoveState {
    return this.kept
  }

  /**
   * @param to an address such as `postgres://…`, or the whole path of a data folder
   * @returns what is wrong with it; null where it was begun
   */
  begin(to: string): string | null {
    if (this.kept.state === 'moving') return 'A move is under way.'
    if (this.kept.state === 'moved') return 'It was moved already: start it anew with its new settings.'
    const { engine, settings } = this.parts
    const isAddress = /^postgres(?:ql)?:\/\//.test(to)
    if (isAddress === engine.isShared)
      return isAddress ? 'It is in a database server already.' : 'It is in a data folder already.'
    if (!isAddress && !isAbsolute(to)) return 'A data folder is named by its whole path.'
    // What other receivers of that database open, this one has sealed.
    if (isAddress && settings.secret === null)
      return 'ASKBOX_SECRET has to be set first, as it has to be for receivers that share a database: to what the file receiver.secret beside the data folder holds.'
    const reading = isAddress ? readPostgresAddress(to) : null
    if (reading !== null && !reading.ok) return `The address ${reading.problem}.`
    const [at, began] = [this.parts.now(), performance.now()]
    this.kept = { state: 'moving', at, doing: 'copying', table: '', rows: 0 }
    void this.moveTo(reading?.ok === true ? () => openSharedStore(reading.address) : () => openStore(to), to, isAddress)
      .then((heldMs) => {
        const tookMs = Math.round(performance.now() - began)
        this.kept = { state: 'moved', at, tookMs, heldMs: Math.round(heldMs), to: withoutPassword(to) }
      })
      .catch((error: unknown) => {
        complain(error)
        this.kept = { state: 'failed', at, said: (error as Error).message.replaceAll(/\s+/g, ' ') }
      })
    return null
  }

  /** Resolves with for how long writes were held up, in milliseconds. */
  private async moveTo(open: () => Promise<Engine>, to: string, isAddress: boolean): Promise<number> {
    const { engine } = this.parts
    const target = await open()
    let heldMs = 0
    let isSwitched = false
    try {
      await this.moveFiles(target, to, isAddress)
      await move(engine.raw(), target.raw(), {
        hold: async (last) => {
          let begun = 0
          await engine.switchWhile(async () => {
            begun = performance.now()
            await last()
            return target
          })
          isSwitched = true
          heldMs = performance.now() - begun
        },
        leave: () => this.leave(target, to, isAddress),
        told: (progress) => void (this.kept.state === 'moving' && (this.kept = { ...this.kept, ...progress })),
      })
      return heldMs
    } finally {
      if (!isSwitched) await target.close()
    }
  }

  private async moveFiles(target: Engine, to: string, isAddress: boolean): Promise<void> {
    const { engine, settings, care, now } = this.parts
    if (isAddress) {
      const folder = join(settings.dataFolder, 'gifts')
      const files = openSharedFiles(target, now)
      for (const id of existsSync(folder) ? readdirSync(folder) : [])
        if (fileIdSchema.safeParse(id).success) await files.take(id, join(folder, id))
      return
    }
    const files = openSharedFiles(engine as unknown as Engine, now)
    mkdirSync(join(to, 'gifts'), { recursive: true, mode: 0o700 })
    for (const id of await files.ids()) {
      const path = join(to, 'gifts', id)
      if (existsSync(path)) continue
      await pipeline((await files.read(id))!, createWriteStream(`${path}.part`, { mode: 0o600, flush: true }))
      renameSync(`${path}.part`, path)
    }
    writeFileSync(join(to, CARE_FILE), JSON.stringify(await care.latest(), null, 1), { mode: 0o600 })
  }

  /** No start goes on with what is left here: a later sign-up would be in one of both alone. */
  private async leave(target: Engine, to: string, isAddress: boolean): Promise<void> {
    const { engine, settings, care } = this.parts
    if (isAddress) {
      await target.run((transaction) => transaction.keepValue('care', care.read(), null))
      return this.mark(settings.dataFolder, withoutPassword(to))
    }
    rmSync(join(to, MOVED_FILE), { force: true })
    await engine
      .raw()
      .write((ask) => ask('INSERT INTO single_values (name, body) VALUES (?, ?)', [MOVED_VALUE, JSON.stringify(to)]))
  }

  private mark(folder: string, to: string): void {
    const file = join(folder, MOVED_FILE)
    writeFileSync(file, JSON.stringify({ to, at: new Date(this.parts.now()).toISOString() }), {
      mode: 0o600,
      flush: true,
    })
  }
}

const withoutPassword = (to: string) => to.replace(/^(postgres(?:ql)?:\/\/[^:@/]*):[^@/]*@/, '$1:…@')

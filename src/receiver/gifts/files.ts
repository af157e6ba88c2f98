import { createHash, randomUUID } from 'node:crypto'
import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdirSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs'
import { join } from 'node:path'
import { Readable, Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { fileIdSchema } from '#core/mail'
import { BodyTooLarge } from '../http/read-body'
import type { SharedFiles } from './shared-files'

export type KeptFile =
  { ok: true; size: number } | { ok: false; code: 'too-large' | 'wrong-id' | 'broken-off' | 'no-room' }

/**
 * Gifts, each named after its bytes; written and read as streams, however large they are. They lie in the data folder; where
 * several receivers share a store, they lie in that, and the folder has those that were asked for here.
 */
export class GiftFiles {
  /** Those on their way from the store: whoever asks meanwhile waits for the same. */
  private readonly coming = new Map<string, Promise<string | null>>()

  /** @param shared null where this receiver has the store for itself */
  constructor(
    private readonly folder: string,
    private readonly shared: SharedFiles | null = null,
  ) {
    // Of a process that ended while one came in.
    if (existsSync(folder))
      for (const name of readdirSync(folder)) if (name.endsWith('.part')) rmSync(join(folder, name), { force: true })
  }

  /** Where a gift's bytes are; null when there are none. */
  async path(id: string): Promise<string | null> {
    if (!fileIdSchema.safeParse(id).success) return null
    const path = join(this.folder, id)
    if (existsSync(path)) return path
    if (this.shared === null) return null
    const coming = this.coming.get(id) ?? this.fetch(id).finally(() => this.coming.delete(id))
    this.coming.set(id, coming)
    return coming
  }

  async size(id: string): Promise<number | null> {
    if (!fileIdSchema.safeParse(id).success) return null
    const path = join(this.folder, id)
    return existsSync(path) ? statSync(path).size : ((await this.shared?.size(id)) ?? null)
  }

  /** Keeps a body under the hash of its bytes; whole or not at all. */
  async keep(id: string, body: Readable): Promise<KeptFile> {
    const outcome = await this.write(id, body)
    if (outcome.ok) await this.shared?.take(id, join(this.folder, id))
    return outcome
  }

  async read(id: string): Promise<ReadableStream | null> {
    const path = await this.path(id)
    return path === null ? null : (Readable.toWeb(createReadStream(path)) as ReadableStream)
  }

  /** Puts what lies in the folder into the shared store, as a receiver brings it that had its store for itself. */
  async share(): Promise<void> {
    if (this.shared === null || !existsSync(this.folder)) return
    for (const id of readdirSync(this.folder))
      if (fileIdSchema.safeParse(id).success) await this.shared.take(id, join(this.folder, id))
  }

  private async fetch(id: string): Promise<string | null> {
    const body = await this.shared!.read(id)
    if (body === null) return null
    return (await this.write(id, body)).ok ? join(this.folder, id) : null
  }

  private async write(id: string, body: Readable): Promise<KeptFile> {
    const part = join(this.folder, `${randomUUID()}.part`)
    const hash = createHash('sha256')
    let size = 0
    const counting = new Transform({
      transform(chunk: Buffer, _, done) {
        size += chunk.length
        hash.update(chunk)
        done(null, chunk)
      },
    })
    try {
      mkdirSync(this.folder, { recursive: true, mode: 0o700 })
      await pipeline(body, counting, createWriteStream(part, { mode: 0o600, flush: true }))
    } catch (error) {
      rmSync(part, { force: true })
      if (error instanceof BodyTooLarge) return { ok: false, code: 'too-large' }
      const isFull = ['ENOSPC', 'EDQUOT', 'EFBIG'].includes((error as NodeJS.ErrnoException).code ?? '')
      return { ok: false, code: isFull ? 'no-room' : 'broken-off' }
    }
    if (hash.digest('hex') !== id) {
      rmSync(part, { force: true })
      return { ok: false, code: 'wrong-id' }
    }
    renameSync(part, join(this.folder, id))
    return { ok: true, size }
  }
}

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

export type KeptFile =
  { ok: true; size: number } | { ok: false; code: 'too-large' | 'wrong-id' | 'broken-off' | 'no-room' }

/** Gifts in the data folder, each named after its bytes; written and read as streams, however large they are. */
export class GiftFiles {
  constructor(private readonly folder: string) {
    // Of a process that ended while one came in.
    if (existsSync(folder))
      for (const name of readdirSync(folder)) if (name.endsWith('.part')) rmSync(join(folder, name), { force: true })
  }

  /** Where a gift's bytes are; null when they are not here. */
  path(id: string): string | null {
    if (!fileIdSchema.safeParse(id).success) return null
    const path = join(this.folder, id)
    return existsSync(path) ? path : null
  }

  size(id: string): number | null {
    const path = this.path(id)
    return path === null ? null : statSync(path).size
  }

  /** Keeps a body under the hash of its bytes; whole or not at all. */
  async keep(id: string, body: Readable): Promise<KeptFile> {
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

  read(id: string): ReadableStream | null {
    const path = this.path(id)
    return path === null ? null : (Readable.toWeb(createReadStream(path)) as ReadableStream)
  }
}

import { randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { Readable } from 'node:stream'
import type { Engine } from '../subjects'

/** Some milliseconds each; sign-ups are written in between. */
const PIECE_BYTES = 256 * 1024
const DAY_MS = 86_400_000

/** Gifts in a store that several receivers share, in pieces, each file named after its bytes. */
export interface SharedFiles {
  size(id: string): Promise<number | null>
  ids(): Promise<string[]>
  /** Keeps a file that lies here, whole or not at all. */
  take(id: string, path: string): Promise<void>
  read(id: string): Promise<Readable | null>
  /** Forgets what is left of files that broke off. */
  dropUnfinished(): Promise<void>
}

export function openSharedFiles(engine: Engine, now: () => number): SharedFiles {
  return {
    size: async (id) => (await engine.now.giftFile(id))?.size ?? null,
    ids: () => engine.now.giftFiles(),
    async take(id, path) {
      if ((await engine.now.giftFile(id)) !== null) return
      const upload = randomUUID()
      let number = 0
      let size = 0
      for await (const piece of createReadStream(path, { highWaterMark: PIECE_BYTES })) {
        const bytes = piece as Buffer
        const at = number++
        size += bytes.length
        await engine.run((transaction) => transaction.keepGiftPiece(upload, at, bytes, now()))
      }
      await engine.run(async (transaction) => {
        // Another receiver may have taken the same bytes meanwhile.
        if ((await transaction.giftFile(id)) !== null) return transaction.dropGiftPieces(upload)
        return transaction.keepGiftFile(id, size, upload)
      })
    },
    async read(id) {
      const file = await engine.now.giftFile(id)
      if (file === null) return null
      const { upload } = file
      return Readable.from(
        (async function* () {
          for (let number = 0; ; number++) {
            const piece = await engine.now.giftPiece(upload, number)
            if (piece === null) return
            yield piece
          }
        })(),
        { objectMode: false },
      )
    },
    dropUnfinished: () => engine.run((transaction) => transaction.dropUnfinishedGifts(now() - DAY_MS)),
  }
}

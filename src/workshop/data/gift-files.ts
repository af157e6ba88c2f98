import { GIFT_PIECE_BYTES, type GiftPiece } from '#core/mail'
import { database } from './database'

/** Keeps a gift's file here too, so that a backup holds it and a new receiver can be given it. */
export async function keepGiftFile(file: string, blob: Blob): Promise<void> {
  const of = Math.max(1, Math.ceil(blob.size / GIFT_PIECE_BYTES))
  const pieces: GiftPiece[] = []
  for (let at = 0; at < of; at += 1)
    pieces.push({ file, at, of, bytes: await base64Of(blob.slice(at * GIFT_PIECE_BYTES, (at + 1) * GIFT_PIECE_BYTES)) })
  await database.giftPieces.bulkPut(pieces)
}

/** A gift's file as it is kept here; null when it is not, or not whole. */
export async function giftFile(file: string): Promise<Blob | null> {
  const pieces = await database.giftPieces.where('file').equals(file).sortBy('at')
  if (pieces.length === 0 || pieces.length !== pieces[0]!.of) return null
  return new Blob(pieces.map(({ bytes }) => Uint8Array.from(atob(bytes), (letter) => letter.charCodeAt(0))))
}

export async function hasGiftFile(file: string): Promise<boolean> {
  const [first] = await database.giftPieces.where('file').equals(file).limit(1).toArray()
  return first !== undefined && (await database.giftPieces.where('file').equals(file).count()) === first.of
}

/** Takes out the files that nothing names any more; the receiver still has them. */
export async function dropGiftFilesBut(named: ReadonlySet<string>): Promise<void> {
  const files = (await database.giftPieces.orderBy('file').uniqueKeys()) as string[]
  for (const file of files) if (!named.has(file)) await database.giftPieces.where('file').equals(file).delete()
}

export async function base64Of(blob: Blob): Promise<string> {
  const bytes = new Uint8Array(await blob.arrayBuffer())
  let text = ''
  // Arguments of one call are limited.
  for (let at = 0; at < bytes.length; at += 32_768) text += String.fromCharCode(...bytes.subarray(at, at + 32_768))
  return btoa(text)
}

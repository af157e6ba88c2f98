import { z } from 'zod'
import { pictureIdSchema } from '#core/ids'
import { harmlessText } from '#core/text'

/** Heaviest picture that is kept, in bytes: it is scaled down on choosing, so more means that it cannot be. */
export const MAX_PICTURE_BYTES = 900_000
/** Above this a picture keeps phone visitors waiting (common practice, no published source). */
export const HEAVY_PICTURE_BYTES = 200_000

export const pictureTypes = ['image/webp', 'image/jpeg', 'image/png'] as const

/** What is known of a picture besides its bytes. Its id is made from its bytes: the first 12 of their SHA-256, in hexadecimal. */
export const pictureFactsSchema = z.strictObject({
  id: pictureIdSchema,
  type: z.enum(pictureTypes),
  /** CSS pixels. */
  width: z.int().min(1).max(10_000),
  height: z.int().min(1).max(10_000),
  /** The file it came from, for the owner. */
  name: harmlessText,
})
export type PictureFacts = z.infer<typeof pictureFactsSchema>

/** A picture, kept once however many forms show it. */
export const pictureSchema = pictureFactsSchema.extend({
  /** Base64 (RFC 4648 section 4). */
  bytes: z.base64().max(Math.ceil((MAX_PICTURE_BYTES * 4) / 3) + 4),
})
export type Picture = z.infer<typeof pictureSchema>

export function factsOf({ bytes: _, ...facts }: Picture): PictureFacts {
  return facts
}

/** What a form says of a picture: enough to lay it out before its bytes arrive. */
export const pictureUseSchema = z.strictObject({
  id: pictureIdSchema,
  width: z.int().min(1).max(10_000),
  height: z.int().min(1).max(10_000),
})
export type PictureUse = z.infer<typeof pictureUseSchema>

/** Size in bytes of base64 text. */
export function bytesIn(base64: string): number {
  return (base64.length / 4) * 3 - (base64.endsWith('==') ? 2 : base64.endsWith('=') ? 1 : 0)
}

/** The picture itself as an address. */
export function dataAddress({ type, bytes }: Pick<Picture, 'type' | 'bytes'>): string {
  return `data:${type};base64,${bytes}`
}

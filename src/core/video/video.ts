import { z } from 'zod'
import { harmlessText } from '#core/text'

/** A video of some host, shown in a sandboxed frame that loads when it is scrolled near. */
export const videoSchema = z.strictObject({
  address: harmlessText.refine(isFrameAddress, 'must be an https address'),
  /** For those who cannot see it, and until it has loaded. */
  title: harmlessText,
  /** The video's own proportions. */
  width: z.int().min(1).max(10_000),
  height: z.int().min(1).max(10_000),
})
export type Video = z.infer<typeof videoSchema>

export type VideoReading = { ok: true; video: Video } | { ok: false; message: string }

/** Proportions of most videos, where the pasted text names none. */
const USUAL_SIZE = { width: 16, height: 9 }

/** The host a video comes from, which its owner has to allow. */
export function videoHost(address: string): string {
  return new URL(address).host
}

/** A video at an address, with the usual proportions where none that can be is named. */
export function madeVideo(
  address: string,
  title: string,
  size: { width: number; height: number } | null,
): VideoReading {
  if (!isFrameAddress(address)) return noVideo('The video needs an address that begins with https://.')
  const bounded = size !== null && size.width <= 10_000 && size.height <= 10_000 ? size : USUAL_SIZE
  return { ok: true, video: { address: new URL(address).href, title, ...bounded } }
}

export function noVideo(message: string): VideoReading {
  return { ok: false, message }
}

function isFrameAddress(address: string): boolean {
  try {
    const url = new URL(address)
    return url.protocol === 'https:' && url.username === '' && url.password === '' && address.length <= 2_000
  } catch {
    return false
  }
}

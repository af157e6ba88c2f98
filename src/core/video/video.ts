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

/**
 * Reads a link or an embed snippet. Of a snippet only the frame's address, title and size are taken;
 * everything else in it is left out. Attributes as in HTML Living Standard, section 4.8.5.
 */
export function readVideo(pasted: string): VideoReading {
  const text = pasted.trim()
  if (text === '') return no('Paste the video’s link, or the embed code that its host gives.')
  if (!text.includes('<')) return made(text, '', null)
  const tag = /<iframe\b((?:"[^"]*"|'[^']*'|[^'">])*)>/i.exec(text)?.[1]
  if (tag === undefined) return no('There is no frame in this code. Ask the video’s host for its embed code with an “iframe”.')
  const attribute = (name: string) => {
    const found = new RegExp(`(?:^|\\s)${name}\\s*=\\s*(?:"([^"]*)"|'([^']*)'|([^\\s"'>]+))`, 'i').exec(tag)
    return unescaped(found?.[1] ?? found?.[2] ?? found?.[3] ?? '').trim()
  }
  const [width, height] = [Number(attribute('width')), Number(attribute('height'))]
  const size = Number.isInteger(width) && Number.isInteger(height) && width > 0 && height > 0 ? { width, height } : null
  return made(attribute('src').replace(/^\/\//, 'https://'), attribute('title'), size)
}

/** The host a video comes from, which its owner has to allow. */
export function videoHost(address: string): string {
  return new URL(address).host
}

function made(address: string, title: string, size: { width: number; height: number } | null): VideoReading {
  if (!isFrameAddress(address)) return no('The video needs an address that begins with https://.')
  const bounded = size !== null && size.width <= 10_000 && size.height <= 10_000 ? size : USUAL_SIZE
  return { ok: true, video: { address: new URL(address).href, title, ...bounded } }
}

function no(message: string): VideoReading {
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

/** The character references that hosts write into attribute values. */
function unescaped(text: string): string {
  return text.replace(/&(amp|quot|#39|lt|gt);/g, (_, name: string) => ({ amp: '&', quot: '"', '#39': "'", lt: '<', gt: '>' })[name]!)
}

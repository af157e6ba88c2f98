import { expose } from 'comlink'

/** A picture's file and the largest size it is shown at, in pixels of the picture. */
interface ScaleWish {
  file: Blob
  mostWidth: number
  mostHeight: number
}

type ScaleAnswer = { ok: true; blob: Blob; width: number; height: number } | { ok: false; message: string }

/** Good enough that no difference is seen at arm's length (common practice, no published source). */
const QUALITY = 0.82

const UNREADABLE = 'This file is not a picture that the browser can read. Choose a JPEG, PNG or WebP file.'

export type ScaleFunctions = { scaled: typeof scaled }
expose({ scaled } satisfies ScaleFunctions)

/** Scales a picture down to what its place needs and packs it as WebP; what is smaller already keeps its size. */
async function scaled({ file, mostWidth, mostHeight }: ScaleWish): Promise<ScaleAnswer> {
  const bitmap = await createImageBitmap(file).catch(() => null)
  if (bitmap === null) return { ok: false, message: UNREADABLE }
  const scale = Math.min(1, mostWidth / bitmap.width, mostHeight / bitmap.height)
  const width = Math.max(1, Math.round(bitmap.width * scale))
  const height = Math.max(1, Math.round(bitmap.height * scale))
  const canvas = new OffscreenCanvas(width, height)
  const context = canvas.getContext('2d')
  if (context === null) return { ok: false, message: 'The browser could not scale the picture.' }
  context.imageSmoothingQuality = 'high'
  context.drawImage(bitmap, 0, 0, width, height)
  bitmap.close()
  const blob = await canvas.convertToBlob({ type: 'image/webp', quality: QUALITY })
  return { ok: true, blob, width, height }
}

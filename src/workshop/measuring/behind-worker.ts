import { expose } from 'comlink'
import { type Area, colourBehind, coloursBehind } from '#core/checkup'

export interface BehindWish {
  picture: Blob
  /** The size of what the picture covers at this width, as `object-fit: cover` does, in CSS pixels. */
  width: number
  height: number
  /** What is behind the picture, `#rrggbb`, and how strongly the picture is drawn, 0 to 1. */
  background: string
  strength: number
  /** What stands over it: a text of some colour, `#rrggbb`, or a part. */
  things: { is: 'text' | 'part'; area: Area; text: string }[]
}
/** Colours behind each thing, in the order of the wish. */
type BehindAnswer = string[][]

export type BehindFunctions = { behind: typeof behind }
expose({ behind } satisfies BehindFunctions)

/** Draws the picture as the form shows it and tells what is really behind each thing; empty where it cannot be drawn. */
async function behind({ picture, width, height, background, strength, things }: BehindWish): Promise<BehindAnswer> {
  const bitmap = await createImageBitmap(picture).catch(() => null)
  if (bitmap === null) return []
  const canvas = new OffscreenCanvas(width, height)
  const context = canvas.getContext('2d', { willReadFrequently: true })
  if (context === null) return []
  const scale = Math.max(width / bitmap.width, height / bitmap.height)
  const [drawnWidth, drawnHeight] = [bitmap.width * scale, bitmap.height * scale]
  context.drawImage(bitmap, (width - drawnWidth) / 2, (height - drawnHeight) / 2, drawnWidth, drawnHeight)
  bitmap.close()
  const pixels = context.getImageData(0, 0, width, height)
  return things.map(({ is, area, text }) =>
    is === 'text'
      ? coloursBehind(pixels, area, { background, strength, text })
      : colourBehind(pixels, area, background, strength),
  )
}

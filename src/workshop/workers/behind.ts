import { type Area, coloursBehind } from '#core/checkup'

export interface BehindWish {
  picture: Blob
  /** The form's size at this width; the picture covers it, as `object-fit: cover` does. */
  width: number
  height: number
  background: string
  strength: number
  text: string
  areas: { place: string; area: Area }[]
}
export type BehindAnswer = { place: string; colours: string[] }[]

/** Draws the picture as the form shows it and tells what is really behind each text. */
self.addEventListener('message', (event: MessageEvent<BehindWish>) => {
  look(event.data).then(
    (answer) => self.postMessage(answer),
    () => self.postMessage([] satisfies BehindAnswer),
  )
})

async function look({ picture, width, height, background, strength, text, areas }: BehindWish): Promise<BehindAnswer> {
  const bitmap = await createImageBitmap(picture)
  const canvas = new OffscreenCanvas(width, height)
  const context = canvas.getContext('2d', { willReadFrequently: true })
  if (context === null) return []
  const scale = Math.max(width / bitmap.width, height / bitmap.height)
  const [drawnWidth, drawnHeight] = [bitmap.width * scale, bitmap.height * scale]
  context.drawImage(bitmap, (width - drawnWidth) / 2, (height - drawnHeight) / 2, drawnWidth, drawnHeight)
  bitmap.close()
  const pixels = context.getImageData(0, 0, width, height)
  return areas.map(({ place, area }) => ({ place, colours: coloursBehind(pixels, area, background, strength, text) }))
}

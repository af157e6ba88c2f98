import { paletteIn, type PaletteReading } from '#core/css'

/** Reads a site's colours: a large sheet takes some seconds. */
self.addEventListener('message', ({ data }: MessageEvent<string>) => {
  let reading: PaletteReading
  try {
    reading = paletteIn(data)
  } catch {
    reading = { ok: false, message: 'This could not be read. Paste the page’s source, or the text of its style sheet.' }
  }
  self.postMessage(reading)
})

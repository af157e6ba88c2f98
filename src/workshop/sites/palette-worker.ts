import { expose } from 'comlink'
import { paletteIn, type PaletteReading } from '#core/css'

const functions = {
  /** Reads a site's colours: a large sheet takes some seconds. */
  read(pasted: string): PaletteReading {
    try {
      return paletteIn(pasted)
    } catch {
      return { ok: false, message: 'This could not be read. Paste the page’s source, or the text of its style sheet.' }
    }
  },
}
export type PaletteFunctions = typeof functions
expose(functions)

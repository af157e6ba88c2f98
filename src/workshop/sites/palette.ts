import type { PaletteReading } from '#core/css'

/** Reads colours beside the interface. The last wish counts: what was pasted before it is let go. */
let worker: Worker | null = null

export function paletteBeside(pasted: string): Promise<PaletteReading> {
  worker?.terminate()
  const mine = new Worker(new URL('../workers/palette.ts', import.meta.url), { type: 'module' })
  worker = mine
  return new Promise<PaletteReading>((resolve, reject) => {
    mine.addEventListener('message', ({ data }: MessageEvent<PaletteReading>) => resolve(data))
    mine.addEventListener('error', ({ message }) => reject(new Error(message || 'the colours could not be read')))
    mine.postMessage(pasted)
  }).finally(() => mine.terminate())
}

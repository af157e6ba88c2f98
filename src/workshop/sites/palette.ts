import type { PaletteReading } from '#core/css'
import { callWorker } from '../worker-calls'
import type { PaletteFunctions } from './palette-worker'

/** The wish that is read now. The last one counts: what was pasted before it is let go. */
let reading: AbortController | null = null

/** Reads colours beside the interface. */
export function paletteBeside(pasted: string): Promise<PaletteReading> {
  reading?.abort()
  reading = new AbortController()
  const worker = new Worker(new URL('./palette-worker.ts', import.meta.url), { type: 'module' })
  return callWorker<PaletteFunctions, PaletteReading>(worker, ({ read }) => read(pasted), reading.signal)
}

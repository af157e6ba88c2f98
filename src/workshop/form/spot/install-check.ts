import type { InstallReport } from '#core/install'
import type { InstallAnswer, InstallWish } from '../../workers/install-check'

/** Looks for a spot's code in a page, beside the interface. */
export function lookFor(wish: InstallWish): Promise<InstallReport> {
  const worker = new Worker(new URL('../../workers/install-check.ts', import.meta.url), { type: 'module' })
  return new Promise<InstallReport>((resolve, reject) => {
    worker.addEventListener('message', ({ data }: MessageEvent<InstallAnswer>) =>
      data.ok ? resolve(data.report) : reject(new Error(data.message)),
    )
    worker.addEventListener('error', ({ message }) => reject(new Error(message || 'the page could not be read')))
    worker.postMessage(wish)
  }).finally(() => worker.terminate())
}

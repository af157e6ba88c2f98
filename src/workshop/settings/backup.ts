import type { Remote } from 'comlink'
import type { WorkspacePart, WorkspaceProblem } from '#core/workspace'
import { now } from '../clock'
import { isDemo } from '../data'
import { callWithTask, callWorker } from '../worker-calls'
import type { FileFunctions } from './file-worker'

/** Long work on a workspace file, in a worker: with progress, and ended by `stop`. */
export interface FileWork<T> {
  /** Rejects with `Stopped` where it was. */
  result: Promise<T>
  stop(): void
}

export type Checked =
  | { ok: true; counts: Partial<Record<WorkspacePart, number>>; exportedAt: string }
  | { ok: false; problem: WorkspaceProblem }

/** Writes everything in this browser as a workspace file. @param linkKeys sealed; null to leave them out */
export function writeFile(
  tell: (share: number) => void,
  linkKeys: string | null,
): FileWork<{ blob: Blob; name: string; at: string }> {
  const at = now()
  const name = `ask-box-${at.slice(0, 16).replace(/[T:]/g, '-')}.json`
  return inWorker(tell, async ({ write }, port) => ({ blob: await write(port, at, linkKeys), name, at }))
}

/** Looks through a file; changes nothing. */
export function checkFile(file: File, tell: (share: number) => void): FileWork<Checked> {
  return inWorker(tell, ({ check }, port): Promise<Checked> => check(port, file))
}

/** Puts a checked file in the place of everything here. */
export function openFile(file: File, tell: (share: number) => void): FileWork<void> {
  return inWorker(tell, async ({ open }, port) => {
    const opened = await open(port, file, now())
    if (!opened.ok) throw new Error(opened.problem.message)
  })
}

function inWorker<Result>(
  tell: (share: number) => void,
  call: (functions: Remote<FileFunctions>, port: MessagePort) => Promise<Result>,
): FileWork<Result> {
  // Vite needs literal worker options, hence both branches.
  const worker = isDemo
    ? new Worker(new URL('./file-worker.ts', import.meta.url), { type: 'module', name: 'demo' })
    : new Worker(new URL('./file-worker.ts', import.meta.url), { type: 'module' })
  const stopper = new AbortController()
  const { signal } = stopper
  const result = callWithTask({ tell, signal }, (port) =>
    callWorker<FileFunctions, Result>(worker, (functions) => call(functions, port), signal),
  )
  return { result, stop: () => stopper.abort() }
}

import type { WorkspacePart, WorkspaceProblem } from '#core/workspace'
import { now } from '../clock'
import { isDemo } from '../data'
import type { FileAnswer, FileWish } from '../workers/workspace-file'

/** Long work on a workspace file, in a worker: with progress, and ended by `stop`. */
export interface FileWork<T> {
  result: Promise<T>
  stop(): void
}

/** Ended by its owner. */
export class Stopped extends Error {}

export type Checked =
  | { ok: true; counts: Partial<Record<WorkspacePart, number>>; exportedAt: string }
  | { ok: false; problem: WorkspaceProblem }

/** Writes everything in this browser as a workspace file. */
export function writeFile(onProgress: (share: number) => void): FileWork<{ blob: Blob; name: string; at: string }> {
  const at = now()
  const work = inWorker({ wish: 'write', now: at }, onProgress)
  return {
    ...work,
    result: work.result.then((answer) => {
      if (answer.answer !== 'written')
        throw new Error(answer.answer === 'problem' ? answer.problem.message : 'the file was not written')
      return { blob: answer.blob, name: `ask-box-${at.slice(0, 16).replace(/[T:]/g, '-')}.json`, at }
    }),
  }
}

/** Looks through a file; changes nothing. */
export function checkFile(file: File, onProgress: (share: number) => void): FileWork<Checked> {
  const work = inWorker({ wish: 'check', file }, onProgress)
  return {
    ...work,
    result: work.result.then((answer): Checked => {
      if (answer.answer === 'problem') return { ok: false, problem: answer.problem }
      if (answer.answer !== 'checked') throw new Error('the file was not read')
      return { ok: true, counts: answer.counts, exportedAt: answer.exportedAt }
    }),
  }
}

/** Puts a checked file in the place of everything here. */
export function openFile(file: File, onProgress: (share: number) => void): FileWork<void> {
  const work = inWorker({ wish: 'open', file, now: now() }, onProgress)
  return {
    ...work,
    result: work.result.then((answer) => {
      if (answer.answer !== 'opened')
        throw new Error(answer.answer === 'problem' ? answer.problem.message : 'the file was not opened')
    }),
  }
}

type Ended = Exclude<FileAnswer, { answer: 'progress' | 'failed' }>

function inWorker(wish: FileWish, onProgress: (share: number) => void): FileWork<Ended> {
  // Their options are read when it is built, so there are two.
  const worker = isDemo
    ? new Worker(new URL('../workers/workspace-file.ts', import.meta.url), { type: 'module', name: 'demo' })
    : new Worker(new URL('../workers/workspace-file.ts', import.meta.url), { type: 'module' })
  let stop = () => {}
  const result = new Promise<Ended>((resolve, reject) => {
    stop = () => reject(new Stopped('Stopped.'))
    worker.addEventListener('message', ({ data }: MessageEvent<FileAnswer>) => {
      if (data.answer === 'progress') onProgress(data.share)
      else if (data.answer === 'failed') reject(new Error(data.message))
      else resolve(data)
    })
    worker.addEventListener('error', (event) => reject(new Error(event.message || 'the file could not be worked on')))
    worker.postMessage(wish)
  }).finally(() => worker.terminate())
  return { result, stop: () => stop() }
}

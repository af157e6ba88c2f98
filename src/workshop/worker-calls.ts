import { type Remote, transfer, wrap } from 'comlink'

/*
 * How the workshop calls its workers: functions that a worker exposes are called as promises (Comlink). What takes long is a
 * task: it tells how far it is, and ends when its owner says so.
 */

export interface Task {
  /** @param share 0 to 1 */
  tell(share: number): void
  signal: AbortSignal
}

/** What a stopped task rejects with, on either side. */
export class Stopped extends Error {
  override name = 'Stopped'
}
/** Errors travel without their class. */
export const isStopped = (error: unknown): boolean => error instanceof Error && error.name === 'Stopped'

export function throwIfStopped({ signal }: Pick<Task, 'signal'>): void {
  if (signal.aborted) throw new Stopped('Stopped.')
}

/**
 * Calls a worker's function with a task as its first argument, which the worker gets back with `taskOf`. Whatever the worker
 * still tells when the call has ended is not heard.
 */
export async function callWithTask<Result>(
  { tell, signal }: Task,
  call: (port: MessagePort) => Promise<Result>,
): Promise<Result> {
  const { port1, port2 } = new MessageChannel()
  const stop = () => port1.postMessage('stop')
  port1.onmessage = ({ data }: MessageEvent<number>) => tell(data)
  if (signal.aborted) stop()
  signal.addEventListener('abort', stop)
  try {
    return await call(transfer(port2, [port2]))
  } finally {
    signal.removeEventListener('abort', stop)
    port1.close()
  }
}

export function taskOf(port: MessagePort): Task {
  const stopper = new AbortController()
  port.onmessage = () => stopper.abort()
  return { tell: (share) => port.postMessage(share), signal: stopper.signal }
}

/** A value that the stores keep watch over, as a plain copy: the other cannot travel. */
export function plainCopy<Value>(value: Value): Value {
  if (value instanceof Blob || typeof value !== 'object' || value === null) return value
  if (Array.isArray(value)) return value.map(plainCopy) as Value
  const known = Object.entries(value).filter(([, one]) => one !== undefined)
  return Object.fromEntries(known.map(([name, one]) => [name, plainCopy(one)])) as Value
}

/**
 * Calls a worker of its own, which ends with the call.
 *
 * @throws Stopped once `signal` says so; an Error where the worker cannot be had or breaks
 */
export async function callWorker<Functions extends object, Result>(
  worker: Worker,
  call: (functions: Remote<Functions>) => Promise<Result>,
  signal?: AbortSignal,
): Promise<Result> {
  const ended = new Promise<never>((_, reject) => {
    worker.addEventListener('error', ({ message }) => reject(new Error(message || 'A part of Ask Box is not there.')))
    signal?.addEventListener('abort', () => reject(new Stopped('Stopped.')), { once: true })
  })
  try {
    return await Promise.race([call(wrap<Functions>(worker)), ended])
  } finally {
    worker.terminate()
  }
}

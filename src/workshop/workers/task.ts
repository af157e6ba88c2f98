/** Something long that the worker does: it tells how far it is, 0 to 1, and ends when it is told to. */
export interface Task {
  tell(share: number): void
  signal: AbortSignal
}

/** Thrown by what was stopped. */
export class Stopped extends Error {
  constructor() {
    super('Stopped.')
  }
}

export function throwIfStopped({ signal }: Task): void {
  if (signal.aborted) throw new Stopped()
}

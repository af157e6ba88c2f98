import { complain } from '../log'
import type { SmtpServer } from '#core/api'
import { Worker } from 'node:worker_threads'
import type { ComposedMail } from './compose'
import type { Dkim } from './settings'
import type { Transport } from './transport'

interface Sending {
  resolve(said: string): void
  reject(reason: unknown): void
}

/**
 * The same transport in a thread of its own, started with the first mail and again if it ever ends.
 *
 * @param file the built `mail-thread.ts`
 */
export function openThreadedTransport(file: string, server: SmtpServer, dkim: Dkim | null): Transport {
  let thread: Worker | null = null
  let last = 0
  const sending = new Map<number, Sending>()

  function start(): Worker {
    const started = new Worker(file, { workerData: { server, dkim } })
    started.on('message', ({ n, said, refused }: { n: number; said?: string; refused?: object }) => {
      const one = sending.get(n)
      sending.delete(n)
      if (said !== undefined) one?.resolve(said)
      else one?.reject(Object.assign(new Error(), refused))
    })
    started.on('error', (error) => complain(error))
    started.on('exit', () => {
      if (thread === started) thread = null
      for (const one of sending.values()) one.reject(new Error('The sending was broken off.'))
      sending.clear()
    })
    return started
  }

  return {
    send: (mail: ComposedMail) =>
      new Promise<string>((resolve, reject) => {
        thread ??= start()
        last += 1
        sending.set(last, { resolve, reject })
        thread.postMessage({ n: last, mail })
      }),
    close: () => void thread?.terminate(),
  }
}

import { parentPort, workerData } from 'node:worker_threads'
import { isDamage } from '../store'
import { checkCopy } from './check-copy'

/** The thread that reads a copy through, which takes seconds where it is large. What an error is does not cross threads by itself. */
try {
  parentPort!.postMessage(checkCopy((workerData as { file: string }).file))
} catch (error) {
  if (!isDamage(error)) throw error
  parentPort!.postMessage({ damage: (error as Error).message })
}

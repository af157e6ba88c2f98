import { parentPort, workerData } from 'node:worker_threads'
import { checkCopy } from './check-copy'

/** The thread that reads a copy through, which takes seconds where it is large. */
parentPort!.postMessage(checkCopy((workerData as { file: string }).file))

import { workerData } from 'node:worker_threads'
import { foldLogIn } from './fold-log-in'

/** The thread that finishes a copy, which takes seconds where it is large. */
foldLogIn((workerData as { file: string }).file)

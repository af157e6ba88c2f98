import { parentPort } from 'node:worker_threads'
import { answerTo, type ReadingWish } from './reading'

/** The thread in which pages and sitemaps of sites are read. */
parentPort!.on('message', (wish: ReadingWish) => void answerTo(wish).then((answer) => parentPort!.postMessage(answer)))

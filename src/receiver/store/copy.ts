import { closeSync, existsSync, fdatasync, openSync, read, rmSync, statSync, write } from 'node:fs'
import { promisify } from 'node:util'
import { Worker } from 'node:worker_threads'
import { foldLogIn } from './fold-log-in'

/** Bytes copied at a time: a few milliseconds of a slow disk, beside other work. */
const PIECE_BYTES = 1024 * 1024
/** Put onto the disk so often: left for the end, it would all go out in the middle of somebody's commit, who then waits for it. */
const SYNC_BYTES = 2 * PIECE_BYTES
const readPiece = promisify(read)
const writePiece = promisify(write)
const sync = promisify(fdatasync)

/**
 * Copies a database in write-ahead mode while it is written to: the main file, then the log, which holds all that came
 * meanwhile. Checkpoints have to be held off until it is done, for they move pages from the log into the file.
 *
 * @param source descriptor of the main file, which must stay open: closing any descriptor of a file ends the locks that
 *   this process has on it (POSIX, fcntl)
 * @param log path of the log
 * @param target path of a file that is not there yet
 * @param thread built program that folds the log into the copy; without one it is done here
 */
export async function copyDatabase(source: number, log: string, target: string, thread?: string): Promise<void> {
  try {
    await copyPieces(source, target)
    if (existsSync(log)) {
      const opened = openSync(log, 'r')
      try {
        // Between two commits, since nothing else runs here. Later entries are not in the copy.
        await copyPieces(opened, `${target}-wal`, statSync(log).size)
      } finally {
        closeSync(opened)
      }
    }
    if (thread === undefined) foldLogIn(target)
    else await inThread(thread, target)
  } catch (error) {
    removeCopy(target)
    throw error
  }
}

/** A copy and what belongs to it while it is made. */
export function removeCopy(file: string): void {
  for (const one of [file, `${file}-wal`, `${file}-shm`, `${file}-journal`]) rmSync(one, { force: true })
}

async function copyPieces(source: number, target: string, most = Infinity): Promise<void> {
  const opened = openSync(target, 'wx', 0o600)
  try {
    const piece = Buffer.alloc(PIECE_BYTES)
    for (let at = 0; at < most;) {
      const { bytesRead } = await readPiece(source, piece, 0, Math.min(PIECE_BYTES, most - at), at)
      if (bytesRead === 0) return
      for (let done = 0; done < bytesRead;)
        done += (await writePiece(opened, piece, done, bytesRead - done, at + done)).bytesWritten
      at += bytesRead
      if (at % SYNC_BYTES < PIECE_BYTES) await sync(opened)
    }
  } finally {
    closeSync(opened)
  }
}

function inThread(thread: string, file: string): Promise<void> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(thread, { workerData: { file } })
    worker.once('error', reject)
    worker.once('exit', (code) => (code === 0 ? resolve() : reject(new Error('The copy could not be finished.'))))
  })
}

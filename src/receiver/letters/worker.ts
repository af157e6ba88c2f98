import { complain } from '../log'
import type { Ledger } from '../ledger'
import type { Worker } from '../subject'
import { Loop, type Turn } from '../work'

/** Debounce: a round after every commit, its own among them, would slow sign-ups and imports down. */
const NEWS_PAUSE_MS = 250
const LONGEST_REST_MS = 30_000
/** How often is looked whether another receiver still does it. */
const OTHERS_TURN_MS = 3_000
/** Within what services are given to stop. */
const STOP_MS = 10_000

/** Settles who gets a letter, and hands those whose turn it is to the sender of mails, a few at a time. */
export class LetterWorker implements Worker {
  private readonly loop = new Loop(() => this.round())

  private readonly turn: Turn

  constructor(private readonly ledger: Ledger) {
    this.turn = ledger.queue.turn('letters')
  }

  start(): () => Promise<void> {
    let timer: ReturnType<typeof setTimeout> | null = null
    const stopListening = this.ledger.onNews(() => {
      timer ??= setTimeout(() => {
        timer = null
        this.loop.wake()
      }, NEWS_PAUSE_MS).unref()
    })
    this.loop.wake()
    return async () => {
      stopListening()
      if (timer !== null) clearTimeout(timer)
      await this.loop.end(STOP_MS)
      await this.turn.letGo().catch(complain)
    }
  }

  private async round(): Promise<number> {
    const turn = await this.turn.mine()
    if (turn === false) return OTHERS_TURN_MS
    if (turn === 'taken') this.ledger.letters.beginAnew()
    return Math.min((await this.ledger.letters.work()) ?? LONGEST_REST_MS, LONGEST_REST_MS)
  }
}

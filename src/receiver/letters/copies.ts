import type { MemberId } from '#core/ids'
import { isRefusedTooOften, REFUSED_AMONG } from '#core/letter'
import { MAIL, type MailBody } from '../mail/queued'
import type { Transaction } from '../subjects'
import type { Job, JobOutcome } from '../work'
import type { SendingStore } from './sending-store'

/** What becomes of each reader's copy: sent, refused, bounced, complained of, left by. */
export class Copies {
  /** Until a mail is settled; by the process that sends it. */
  private readonly wordsInHand = new Map<string, number>()

  constructor(private readonly store: SendingStore) {}

  async leftBy(id: string, member: MemberId): Promise<void> {
    await this.store.writing.runAsIs(async (transaction) => {
      const copy = await transaction.copyOf(id, member)
      if (copy !== null) await transaction.markCopy(copy, 'left')
    })
  }

  async reported(id: string, member: MemberId, what: 'bounced' | 'complained'): Promise<void> {
    await this.store.writing.runAsIs(async (transaction) => {
      const copy = await transaction.copyOf(id, member)
      if (copy === null) return
      if (what === 'complained') return transaction.markCopy(copy, 'complained')
      if (copy.state !== 'sent') return
      await transaction.moveCopy(copy, 'bounced', copy.at)
      await this.stopWhenRefused(transaction, id)
    })
  }

  composed(jobId: string, words: number): void {
    this.wordsInHand.set(jobId, words)
  }

  async tried(transaction: Transaction, { id: jobId, worker, space, body }: Job, outcome: JobOutcome): Promise<void> {
    const { now } = this.store.writing
    const { sending: id, member } = body as MailBody
    if (worker !== MAIL || space !== '' || id === undefined || member === '') return
    const copy = await transaction.copyOf(id, member)
    const stored = await transaction.sending(id)
    if (copy === null || stored === null) return
    if (outcome.state === 'later') {
      // It was in hand when the letter was stopped: it waits with the others.
      if (stored.state !== 'stopped') return
      await transaction.dropJob(jobId)
      return transaction.moveCopy(copy, 'waiting', now())
    }
    const to = outcome.state === 'done' ? 'sent' : outcome.state
    const words = this.wordsInHand.get(jobId) ?? stored.mended
    this.wordsInHand.delete(jobId)
    await transaction.moveCopy(copy, to, now(), words)
    if (to === 'refused') await this.stopWhenRefused(transaction, id)
  }

  /** Stops a letter that too many servers refuse: something is wrong with it, with its sender, or with its list. */
  private async stopWhenRefused(transaction: Transaction, id: string): Promise<void> {
    const stored = await transaction.sending(id)
    if (stored === null || (stored.state !== 'going' && stored.state !== 'settling')) return
    const newest = await transaction.newestEnded(id, stored.forgivenAt ?? 0, REFUSED_AMONG)
    if (!isRefusedTooOften(newest)) return
    const refused = newest.filter((state) => state !== 'sent').length
    await this.store.takeBack(transaction, id)
    await transaction.keepSending({
      ...stored,
      state: 'stopped',
      said: `It stopped by itself: of the last ${newest.length}, ${refused} were refused.`,
    })
  }
}

import { linksOfLetter, type LetterContent, picturesOf, type Sending } from '#core/letter'
import type { Transaction } from '../subjects'
import type { Writing } from '../writing'
import { letterJobId } from './letter-job'
import type { StoredSending } from './tables'

/** What is written of letters on their way: every change of one in a transaction of its own. */
export class SendingStore {
  constructor(readonly writing: Writing) {}

  async withCounts(stored: StoredSending): Promise<Sending> {
    const { settling: _settling, forgivenAt: _forgivenAt, ...sending } = stored
    return { ...sending, counts: await this.writing.engine.now.countsOfSending(stored.id) }
  }

  /** Changes one as the recipe says, which answers null where nothing is to change. Resolves with null for an unknown id. */
  async change(
    id: string,
    recipe: (stored: StoredSending, transaction: Transaction) => Promise<StoredSending | null>,
  ): Promise<Sending | null> {
    const changed = await this.writing.runAsIs(async (transaction) => {
      const stored = await transaction.sending(id)
      const next = stored === null ? null : await recipe(stored, transaction)
      if (next !== null) await transaction.keepSending(next)
      return next ?? stored
    })
    return changed === null ? null : this.withCounts(changed)
  }

  /** What is not in somebody's hand waits again. */
  async takeBack(transaction: Transaction, id: string): Promise<void> {
    for (const copy of await transaction.copiesQueued(id)) {
      const job = await transaction.job(letterJobId(id, copy.member))
      if (job !== null && (job.state !== 'open' || job.heldUntil > 0)) continue
      if (job !== null) await transaction.dropJob(job.id)
      await transaction.moveCopy(copy, 'waiting', this.writing.now())
    }
  }

  /** Addresses get their numbers, and pictures stay, with the words that have them. */
  async keepParts(transaction: Transaction, id: string, content: LetterContent): Promise<void> {
    for (const picture of picturesOf(content)) await transaction.keepLetterPicture(picture, id)
    if (content.countsLinks)
      await transaction.keepLinks(
        id,
        linksOfLetter(content).map(({ address }) => address),
      )
  }
}

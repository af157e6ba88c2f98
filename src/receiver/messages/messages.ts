import { messagesOf } from '#core/form'
import type { ArrivalId, FormId } from '#core/ids'
import { hasSender } from '#core/mail'
import { MOST_MESSAGES_ERASED, type SentMessage } from '#core/journal'
import { appendEntry, eraseMessages, messageAt, ofMessages, queueMessage } from '../people'
import type { Writing } from '../writing'
import type { KeptMessage } from './tables'

const DAY_MS = 86_400_000

/** Messages to the owner, after they came in. */
export interface Messages {
  /** Lets held ones through to the owner's inbox; resolves with how many. */
  release(ids: readonly ArrivalId[], by?: string): Promise<number>
  /** Takes away what they say and whose they were; resolves with how many. */
  erase(ids: readonly ArrivalId[], by?: string): Promise<number>
  /** A message by the number of its entry; null for none. */
  at(n: number): Promise<SentMessage | null>
  /** Erases those that are older than the days that their form says; resolves with how many. */
  eraseKeptLongEnough(): Promise<number>
}

export function openMessages({ engine, run, now, sureNow, published }: Writing): Messages {
  const eraseSome = (some: readonly KeptMessage[], why: 'days-over' | 'by-owner', by?: string) =>
    run((transaction) => eraseMessages(transaction, some, { why, now: now(), by }))
  return {
    release: (ids, by) =>
      run(async (transaction) => {
        let count = 0
        for (const id of ids) {
          const kept = await transaction.message(id)
          const entry = kept?.isHeld ? await messageAt(transaction, kept) : null
          if (entry === null || entry.personal === null) continue
          const { list } = entry
          await appendEntry(transaction, { ...ofMessages(list, now(), by), kind: 'message-released', message: id })
          await transaction.releaseMessage(id)
          const content = published.latestVersion(entry.form)?.content
          if (content !== undefined && hasSender(published.mail(list)))
            await queueMessage(transaction, { entry, to: messagesOf(content).to, now: now() })
          count += 1
        }
        return count
      }),
    async erase(ids, by) {
      let count = 0
      for (let at = 0; at < ids.length; at += MOST_MESSAGES_ERASED) {
        const some = await Promise.all(ids.slice(at, at + MOST_MESSAGES_ERASED).map((id) => engine.now.message(id)))
        count += await eraseSome(
          some.filter((one) => one !== null),
          'by-owner',
          by,
        )
      }
      return count
    },
    at: (n) => messageAt(engine.now, { n }),
    async eraseKeptLongEnough() {
      let count = 0
      for (const form of await engine.now.formsWithMessages()) {
        const before = sureNow() - daysOf(form) * DAY_MS
        for (;;) {
          const due = await engine.now.messagesBefore(form, before, MOST_MESSAGES_ERASED)
          if (due.length === 0) break
          count += await eraseSome(due, 'days-over')
        }
      }
      return count
    },
  }

  /** As its newest version says: whoever shortens the days means those that are here as well. */
  function daysOf(form: FormId): number {
    return messagesOf(published.latestVersion(form)?.content ?? {}).keepDays
  }
}

import { type LetterTime, type Sending, titleOf } from '#core/letter'
import { shownDay, shownMoment } from '../controls'
import { useWorkspace } from '../data'
import { useReceiverAnswer } from '../sync'

/** Letters that wait, go and went, as the receiver has them. */
export function useSendings(everyMs = 2_000) {
  const { answer, problem, look } = useReceiverAnswer(async (client) => (await client.sendings()).sendings, everyMs)
  return { sendings: answer, problem, look }
}

/** How a going out of a letter is said. */
export function useSendingWords() {
  const workspace = useWorkspace()
  const title = ({ content }: Pick<Sending, 'content'>) =>
    titleOf(content, workspace.list(content.lists[0]!)?.name ?? 'Letter')
  const listNames = ({ content }: Pick<Sending, 'content'>) =>
    content.lists.map((list) => workspace.list(list)?.name ?? 'a list that is gone').join(', ')
  return { title, listNames }
}

/** Of how many it is done, and how far. */
export function progressOf({ counts }: Pick<Sending, 'counts'>): { done: number; of: number } {
  const { waiting, queued, sent, refused, bounced, dropped } = counts
  const done = sent + refused + bounced + dropped
  return { done, of: done + waiting + queued }
}

export function stateWords(sending: Sending): string {
  const { state, when, startsAt, counts } = sending
  const { of, done } = progressOf(sending)
  const at = shownMoment(new Date(startsAt).toISOString())
  switch (state) {
    case 'asks':
      return 'waits for your yes'
    case 'planned':
      return `goes ${whenWords(when, at)}`
    case 'settling':
      return 'is being addressed'
    case 'going':
      return counts.sent === 0 && startsAt > Date.now()
        ? `goes ${whenWords(when, at)}`
        : `is going: ${done.toLocaleString('en-GB')} of ${of.toLocaleString('en-GB')}`
    case 'stopped':
      return `stopped: ${done.toLocaleString('en-GB')} of ${of.toLocaleString('en-GB')} went`
    case 'done':
      return `sent ${shownMoment(new Date(sending.endedAt ?? startsAt).toISOString())}`
    case 'cancelled':
      return counts.sent === 0 ? 'cancelled' : `cancelled after ${counts.sent.toLocaleString('en-GB')}`
  }
}

export function whenWords(when: LetterTime, at: string): string {
  if (when.kind === 'now') return 'now'
  return when.kind === 'at' ? at : `on ${shownDay(when.day)} at ${when.time}, by each reader’s clock`
}

/** Of a hundred who got it, in words; empty while nobody did. */
export function shareWords(count: number, { sent, bounced }: Sending['counts']): string {
  const got = sent + bounced
  return got === 0 ? '' : `${((100 * count) / got).toLocaleString('en-GB', { maximumFractionDigits: 1 })} in 100`
}

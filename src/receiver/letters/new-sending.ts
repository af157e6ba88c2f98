import { type LetterContent, type LetterTime, momentFor, type SendingSource } from '#core/letter'
import type { SendingId } from '#core/ids'
import { momentIn } from '#core/zone'
import type { StoredSending } from './tables'

/** Where days begin first. */
const FIRST_ZONE = 'Pacific/Kiritimati'

export interface NewSending {
  id: SendingId
  source: SendingSource
  content: LetterContent
  when: LetterTime
}

/** A sending before anybody is put down for it. One that `asks` waits for its owner's yes. */
export function newSending({ id, source, content, when }: NewSending, asks: boolean, now: number): StoredSending {
  return {
    ...{ id, source, content, when, createdAt: now, startsAt: startOf(when, now), endedAt: null, mended: 0 },
    ...(source.kind === 'series'
      ? { state: 'going' as const, settling: null }
      : { state: asks ? ('asks' as const) : ('planned' as const), settling: { list: 0, rank: 0 } }),
    said: '',
  }
}

/** When the first of its readers may get it. */
export function startOf(when: LetterTime, now: number): number {
  return when.kind === 'local'
    ? Math.max(now, momentIn(FIRST_ZONE, when.day, when.time))
    : momentFor(when, undefined, now)
}

import type { ListId, MemberId, SendingId, SeriesId } from '#core/ids'
import { type CopyState, copyStates, noCopies, type Sending, type SendingCounts, type SendingState } from '#core/letter'
import { bodyOf, parsed, type Row, type SubjectTables } from '../store'
import { migrations } from './schema'
import { letterStatements } from './statements'

/** A sending as it is stored; its counts stand beside it. */
export type StoredSending = Omit<Sending, 'counts'> & {
  /** How far its readers are settled: which of its lists, and after which running number on it; null for wholly. */
  settling: { list: number; rank: number } | null
  /** Refusals from before are forgiven: its owner had it go on. In milliseconds since 1970. */
  forgivenAt?: number
}

/** A reader's copy. */
export interface StoredCopy {
  sending: SendingId
  inbox: string
  member: MemberId
  list: ListId
  state: CopyState
  at: number
  words: number
  hasLeft: boolean
  hasComplained: boolean
}

/** Where somebody is in a series. */
export interface SeriesReader {
  series: SeriesId
  member: MemberId
  began: number
  zone: string
  /** Of the letter that they got last; -1 and empty before the first. */
  days: number
  time: string
  due: number | null
  /** The letter that is due; empty for none. */
  step: string
}

export interface LetterQueries {
  sending(id: string): Promise<StoredSending | null>
  keepSending(sending: StoredSending): Promise<void>
  /** With all that is kept of it. */
  dropSending(id: string): Promise<void>
  /** Newest first. */
  sendings(limit: number): Promise<StoredSending[]>
  /** Oldest first. */
  sendingsInState(state: SendingState): Promise<StoredSending[]>
  countsOfSending(id: string): Promise<SendingCounts>
  /** Puts a reader down, unless their inbox is already. */
  addCopy(copy: Pick<StoredCopy, 'sending' | 'inbox' | 'member' | 'list' | 'at'>): Promise<boolean>
  /** Adds to how many copies a sending has in a state: for those that were put down. */
  countCopies(sending: string, state: CopyState | 'left' | 'complained', by: number): Promise<void>
  /** Those that may go, the longest due first. */
  copiesDue(sending: string, now: number, limit: number): Promise<StoredCopy[]>
  copiesQueued(sending: string): Promise<StoredCopy[]>
  /** When the next one may go; null for none. */
  nextCopyDue(sending: string): Promise<number | null>
  copyOf(sending: string, member: string): Promise<StoredCopy | null>
  /** Changes a copy's state, and what is counted of it. */
  moveCopy(copy: StoredCopy, to: CopyState, at: number, words?: number): Promise<void>
  /** All that wait, as one. */
  dropWaiting(sending: string): Promise<void>
  markCopy(copy: StoredCopy, mark: 'left' | 'complained'): Promise<void>
  /** States of those that came to their end after a time, newest first. */
  newestEnded(sending: string, after: number, limit: number): Promise<CopyState[]>
  /** Newest first. */
  copiesOfMember(member: string, limit: number): Promise<StoredCopy[]>
  /** Forgets what somebody got and where they are in series. */
  forgetReader(member: string): Promise<void>
  keepWords(sending: string, number: number, body: unknown): Promise<void>
  wordsOf(sending: string, number: number): Promise<unknown>
  /** Gives each address a number that stays; resolves with all of them. */
  keepLinks(sending: string, addresses: readonly string[]): Promise<Map<string, number>>
  linksOf(sending: string): Promise<{ number: number; address: string; presses: number }[]>
  countPress(sending: string, number: number): Promise<string | null>
  keepLetterPicture(picture: string, sending: string): Promise<void>
  isLetterPicture(picture: string): Promise<boolean>
  keepSeriesReader(reader: SeriesReader): Promise<void>
  seriesReader(series: string, member: string): Promise<SeriesReader | null>
  dropSeriesReader(series: string, member: string): Promise<void>
  seriesReadersDue(now: number, limit: number): Promise<SeriesReader[]>
  /** After a member's id, in its order. */
  readersOfSeries(series: string, after: string, limit: number): Promise<SeriesReader[]>
  countSeriesReaders(series: string): Promise<{ step: string; count: number }[]>
}

const copyFrom = (row: Row): StoredCopy => ({
  sending: String(row.sending) as SendingId,
  inbox: String(row.inbox),
  member: String(row.member) as MemberId,
  list: String(row.list) as ListId,
  state: row.state as CopyState,
  at: Number(row.at),
  words: Number(row.words),
  hasLeft: Number(row.left) > 0,
  hasComplained: Number(row.complained) > 0,
})

const readerFrom = (row: Row): SeriesReader => ({
  series: String(row.series) as SeriesId,
  member: String(row.member) as MemberId,
  began: Number(row.began),
  zone: String(row.zone),
  days: Number(row.days),
  time: String(row.time),
  due: row.due === null ? null : Number(row.due),
  step: String(row.step),
})

export const letterTables: SubjectTables<LetterQueries> = {
  migrations,
  queries(database) {
    const statements = letterStatements(database)
    const count = (sending: string, state: string, by: number) => statements.addToCount.run(sending, state, by)
    const linksOf = async (sending: string) =>
      (await statements.links.all(sending)).map((row) => ({
        number: Number(row.number),
        address: String(row.address),
        presses: Number(row.presses),
      }))
    return {
      async sending(id) {
        return bodyOf<StoredSending>(await statements.sending.get(id))
      },
      async keepSending(sending) {
        const { id, state, createdAt, startsAt } = sending
        await statements.keepSending.run(id, state, createdAt, startsAt, JSON.stringify(sending))
      },
      async dropSending(id) {
        await statements.dropSending.run(id)
        await statements.dropPictures.run(id)
        await statements.dropLinks.run(id)
        await statements.dropCounts.run(id)
        await statements.dropCopies.run(id)
      },
      async sendings(limit) {
        return (await statements.sendings.all(limit)).map((row) => parsed<StoredSending>(row.body))
      },
      async sendingsInState(state) {
        return (await statements.sendingsInState.all(state)).map((row) => parsed<StoredSending>(row.body))
      },
      async countsOfSending(id) {
        const counts = noCopies()
        for (const { state, count } of await statements.counts.all(id))
          counts[state as keyof SendingCounts] = Math.max(0, Number(count))
        return counts
      },
      async addCopy({ sending, inbox, member, list, at }) {
        return (await statements.addCopy.run(sending, inbox, member, list, at)).changes > 0
      },
      async countCopies(sending, state, by) {
        await count(sending, state, by)
      },
      async copiesDue(sending, now, limit) {
        return (await statements.copiesDue.all(sending, now, limit)).map(copyFrom)
      },
      async copiesQueued(sending) {
        return (await statements.copiesQueued.all(sending)).map(copyFrom)
      },
      async nextCopyDue(sending) {
        const at = (await statements.nextCopyDue.get(sending))?.at
        return at === undefined || at === null ? null : Number(at)
      },
      async copyOf(sending, member) {
        const row = await statements.copyOf.get(member, sending)
        return row === undefined ? null : copyFrom(row)
      },
      async moveCopy(copy, to, at, words = copy.words) {
        await statements.moveCopy.run(to, at, words, copy.sending, copy.inbox)
        if (copy.state === to) return
        await count(copy.sending, copy.state, -1)
        await count(copy.sending, to, 1)
      },
      async dropWaiting(sending) {
        const { changes } = await statements.dropWaiting.run(sending)
        if (changes === 0) return
        await count(sending, 'waiting', -changes)
        await count(sending, 'dropped', changes)
      },
      async markCopy(copy, mark) {
        if (mark === 'left' ? copy.hasLeft : copy.hasComplained) return
        await (mark === 'left' ? statements.markLeft : statements.markComplained).run(copy.sending, copy.inbox)
        await count(copy.sending, mark, 1)
      },
      async newestEnded(sending, after, limit) {
        const ended: Row[] = []
        for (const state of ['sent', 'refused', 'bounced'] satisfies CopyState[])
          ended.push(...(await statements.ended.all(sending, state, after, limit)))
        return ended
          .sort((one, other) => Number(other.at) - Number(one.at))
          .slice(0, limit)
          .map(({ state }) => state as CopyState)
      },
      async copiesOfMember(member, limit) {
        return (await statements.copiesOfMember.all(member, limit)).map(copyFrom)
      },
      async forgetReader(member) {
        for (const copy of (await statements.copiesOfMember.all(member, 10_000)).map(copyFrom))
          if (copyStates.indexOf(copy.state) < 2) await count(copy.sending, copy.state, -1)
        await statements.dropCopiesOf.run(member)
        await statements.dropReader.run(member)
      },
      async keepWords(sending, number, body) {
        await statements.keepWords.run(sending, number, JSON.stringify(body))
      },
      async wordsOf(sending, number) {
        return bodyOf<unknown>(await statements.words.get(sending, number))
      },
      linksOf,
      async keepLinks(sending, addresses) {
        const known = new Map((await linksOf(sending)).map(({ address, number }) => [address, number]))
        for (const address of addresses) {
          if (known.has(address)) continue
          await statements.addLink.run(sending, known.size, address)
          known.set(address, known.size)
        }
        return known
      },
      async countPress(sending, number) {
        const row = await statements.link.get(sending, number)
        if (row === undefined) return null
        await statements.countPress.run(sending, number)
        return String(row.address)
      },
      async keepLetterPicture(picture, sending) {
        await statements.keepPicture.run(picture, sending)
      },
      async isLetterPicture(picture) {
        return (await statements.picture.get(picture)) !== undefined
      },
      async keepSeriesReader({ series, member, began, zone, days, time, due, step }) {
        await statements.keepReader.run(series, member, began, zone, days, time, due, step)
      },
      async seriesReader(series, member) {
        const row = await statements.reader.get(series, member)
        return row === undefined ? null : readerFrom(row)
      },
      async dropSeriesReader(series, member) {
        await statements.dropOneReader.run(series, member)
      },
      async seriesReadersDue(now, limit) {
        return (await statements.readersDue.all(now, limit)).map(readerFrom)
      },
      async readersOfSeries(series, after, limit) {
        return (await statements.readersOf.all(series, after, limit)).map(readerFrom)
      },
      async countSeriesReaders(series) {
        const rows = await statements.countReaders.all(series)
        return rows.map((row) => ({ step: String(row.step), count: Number(row.count) }))
      },
    }
  },
}

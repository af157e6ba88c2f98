import { createHash } from 'node:crypto'
import type { MemberId, SendingId, SeriesId } from '#core/ids'
import { affectedMembers, type Member } from '#core/list'
import {
  type LetterContent,
  nextStep,
  type Series,
  type SeriesContent,
  type SeriesPlace,
  type SeriesStep,
} from '#core/letter'
import { sameValue } from '#core/json'
import { takenIn } from '../people'
import type { Transaction } from '../subjects'
import type { Writing } from '../writing'
import { inboxHash } from './inbox'
import type { SeriesReader, StoredSending } from './tables'
import { zoneOf } from './zone-of'

/** Entries, or people, that are looked at in one transaction. */
const AT_ONCE = 500
const CURSOR = 'series cursor'
/** As many entries may be read again after a start. */
const FAR = 10_000
const STATE = 'series state '
const PAUSED = 'The series is paused.'

/** What is kept of a series that was begun. */
interface Kept {
  /** As it was published when its people's days were reckoned last. */
  content: SeriesContent
  /** How far those who were there are let in, or people's days reckoned anew; null for wholly. */
  letsIn: number | null
  reckons: string | null
}

/** Which going out a letter of a series is: the same for everybody, as long as the series goes on. */
export function sendingOfStep(series: string, step: string): SendingId {
  return `s${createHash('sha256').update(`${series} ${step}`).digest('hex').slice(0, 24)}` as SendingId
}

/** Lets people into series as they join, and puts them down for each letter when its day has come. */
export class SeriesWork {
  /** The entry that was read last; null before it is known. */
  private cursor: number | null = null
  private keptCursor = 0

  constructor(private readonly writing: Writing) {}

  private reader(member: Member): Reader {
    return { member, zone: zoneOf(this.writing.published, member) }
  }

  /** Forgets how far was read: another process may have read on. */
  beginAnew(): void {
    this.cursor = null
  }

  /** Milliseconds until there may be more to do; null for nothing in sight. */
  async work(): Promise<number | null> {
    const { published } = this.writing
    const all = published.series()
    if (all.length === 0) return null
    if (await this.follow(all)) return 0
    for (const series of all) if (await this.prepare(series)) return 0
    if (await this.putDown(all)) return 0
    return 30_000
  }

  /**
   * Reads what happened to people since the last look. Where it is about nobody in a series, nothing is written: what was
   * read may be read again. Resolves with whether there is more.
   */
  private async follow(all: readonly Series[]): Promise<boolean> {
    const { runAsIs, engine, now } = this.writing
    const newest = await engine.now.newestEntry()
    if (this.cursor === null) {
      this.cursor = (await engine.now.value(CURSOR, now())) as number | null
      this.keptCursor = this.cursor ?? 0
    }
    if (this.cursor === newest.n) return false
    // Before the first series nobody was to be let in.
    if (this.cursor === null || this.cursor > newest.n) {
      await engine.run((transaction) => transaction.keepValue(CURSOR, newest.n, null))
      this.cursor = newest.n
      return false
    }
    const page = await engine.now.entriesAfter(this.cursor, AT_ONCE)
    // Nobody begins a series because a receiver is filled: what is taken in happened before.
    const history = await takenIn(engine.now, now())
    const isHistory = (n: number) => history.some(({ from, to }) => n >= from && n <= to)
    const concerned = page.flatMap(({ entry }) => {
      const those = all.filter(({ published }) => published!.list === entry.list)
      return those.length === 0
        ? []
        : affectedMembers(entry).map((id) => ({
            ...{ id, those, at: Date.parse(entry.at) },
            mayBegin: !isHistory(entry.n),
          }))
    })
    const next = page.at(-1)?.entry.n ?? newest.n
    if (concerned.length > 0 || next - this.keptCursor > FAR) {
      await runAsIs(async (transaction) => {
        for (const { id, those, at, mayBegin } of concerned)
          await this.look(transaction, those, id, mayBegin ? at : null)
        await transaction.keepValue(CURSOR, next, null)
      })
      this.keptCursor = next
    }
    this.cursor = next
    return page.length === AT_ONCE
  }

  /** Lets somebody in who is on the list now, and out who is not. @param at when they came; null for who is not let in by it */
  private async look(transaction: Transaction, all: readonly Series[], id: MemberId, at: number | null): Promise<void> {
    const member = await transaction.member(id)
    for (const { id: series, published } of all) {
      const reader = await transaction.seriesReader(series, id)
      const belongs = member !== null && isIn(member, published!)
      if (!belongs && reader !== null) await transaction.dropSeriesReader(series, id)
      if (belongs && reader === null && at !== null)
        await transaction.keepSeriesReader(begun(series, published!, this.reader(member), at))
    }
  }

  /** Lets those in who were there, and reckons everybody's days anew after a change. Resolves with whether there is more. */
  private async prepare({ id, published, isPaused, createdAt }: Series): Promise<boolean> {
    const { runAsIs, engine, now } = this.writing
    const content = published!
    const kept = (await engine.now.value(`${STATE}${id}`, now())) as Kept | null
    const isReady = kept !== null && kept.letsIn === null && kept.reckons === null && sameValue(kept.content, content)
    if (isReady && (await this.arePausedAlike(id, content, isPaused))) return false
    return runAsIs(async (transaction) => {
      if (kept === null) {
        // One from before a filling began for those who were there, when it was begun.
        const isOld = (await takenIn(transaction, now())).some(({ at }) => Date.parse(createdAt) < at)
        const first: Kept = { content, letsIn: content.includesThoseThere && !isOld ? 0 : null, reckons: null }
        await transaction.keepValue(`${STATE}${id}`, first, null)
      } else if (kept.letsIn !== null) {
        const page = await transaction.membersAfterRank(content.list, kept.letsIn, AT_ONCE)
        for (const { member } of page)
          if (isIn(member, content) && (await transaction.seriesReader(id, member.id)) === null)
            await transaction.keepSeriesReader(begun(id, content, this.reader(member), now()))
        const letsIn = page.length < AT_ONCE ? null : page.at(-1)!.rank
        await transaction.keepValue(`${STATE}${id}`, { ...kept, letsIn }, null)
      } else if (!sameValue(kept.content, content) || kept.reckons !== null) {
        const page = await transaction.readersOfSeries(id, kept.reckons ?? '', AT_ONCE)
        for (const reader of page) await transaction.keepSeriesReader(reckoned(reader, content))
        const reckons = page.length < AT_ONCE ? null : page.at(-1)!.member
        await transaction.keepValue(`${STATE}${id}`, { ...kept, content, reckons }, null)
      }
      await this.keepSendings(transaction, id, content, isPaused)
      return true
    })
  }

  private async arePausedAlike(id: SeriesId, content: SeriesContent, isPaused: boolean): Promise<boolean> {
    const sendings = await Promise.all(
      content.steps.map((step) => this.writing.engine.now.sending(sendingOfStep(id, step.id))),
    )
    return sendings.every(
      (one) => one !== null && (isPaused ? one.state === 'stopped' : one.state === 'going' || one.said !== PAUSED),
    )
  }

  /** Each letter of a series is one going out, with the words that are published. */
  private async keepSendings(
    transaction: Transaction,
    id: SeriesId,
    content: SeriesContent,
    isPaused: boolean,
  ): Promise<void> {
    for (const step of content.steps) {
      const words: LetterContent = {
        ...step.body,
        ...{ lists: [content.list], readers: { kind: 'everybody' }, isInArchive: false, countsLinks: false },
      }
      const before = await transaction.sending(sendingOfStep(id, step.id))
      const made: StoredSending = before ?? {
        id: sendingOfStep(id, step.id),
        source: { kind: 'series', id, step: step.id },
        ...{ content: words, when: { kind: 'now' }, createdAt: this.writing.now(), startsAt: this.writing.now() },
        ...{ endedAt: null, mended: 0, said: '', settling: null, state: 'going' },
      }
      const isMended = !sameValue(made.content, words)
      if (isMended) await transaction.keepWords(made.id, made.mended, made.content)
      const isHeld = made.state === 'stopped' && made.said === PAUSED
      // Put in again after it was taken out.
      const isBack = made.state === 'done'
      await transaction.keepSending({
        ...made,
        content: words,
        mended: made.mended + (isMended ? 1 : 0),
        ...(isPaused && (isBack || made.state === 'going') && { state: 'stopped' as const, said: PAUSED }),
        ...(!isPaused && (isBack || isHeld) && { state: 'going' as const, said: '' }),
      })
    }
  }

  /** Puts those down whose day has come. Resolves with whether there may be more. */
  private async putDown(all: readonly Series[]): Promise<boolean> {
    const { runAsIs, engine, sureNow } = this.writing
    if ((await engine.now.seriesReadersDue(sureNow(), 1)).length === 0) return false
    const bySeries = new Map(all.map((series) => [series.id, series.published!]))
    return runAsIs(async (transaction) => {
      const due = await transaction.seriesReadersDue(sureNow(), AT_ONCE)
      for (const reader of due) {
        const content = bySeries.get(reader.series)
        const member = await transaction.member(reader.member)
        if (content === undefined || member === null || !isIn(member, content)) {
          await transaction.dropSeriesReader(reader.series, reader.member)
          continue
        }
        const step = content.steps.find(({ id }) => id === reader.step)
        if (step !== undefined) await this.putOneDown(transaction, sendingOfStep(reader.series, step.id), member)
        const place = step ?? { days: reader.days, time: reader.time }
        await transaction.keepSeriesReader(reckoned({ ...reader, days: place.days, time: place.time }, content))
      }
      return due.length === AT_ONCE
    })
  }

  private async putOneDown(transaction: Transaction, sending: SendingId, member: Member): Promise<void> {
    const { sureNow } = this.writing
    const copy = { sending, member: member.id, list: member.list, at: sureNow() }
    // Who came back after leaving does not get the same once more.
    if (await transaction.addCopy({ ...copy, inbox: inboxHash(member.email.compared) }))
      await transaction.countCopies(sending, 'waiting', 1)
  }
}

function isIn(member: Member, { list, tag }: SeriesContent): boolean {
  return member.list === list && member.status === 'confirmed' && (tag === '' || (member.tags ?? []).includes(tag))
}

/** Somebody who is let in, with their time zone as far as it is known. */
interface Reader {
  member: Member
  zone: string | undefined
}

function begun(series: SeriesId, content: SeriesContent, { member, zone }: Reader, at: number): SeriesReader {
  return reckoned(
    { series, member: member.id, began: at, zone: zone ?? content.zone, days: -1, time: '', due: null, step: '' },
    content,
  )
}

/** Somebody who got a letter of it before this receiver was here. */
export function readerAt(id: SeriesId, content: SeriesContent, reader: Reader, place: SeriesStep): SeriesReader {
  const began = begun(id, content, reader, Date.parse(reader.member.joinedAt))
  return reckoned({ ...began, days: place.days, time: place.time }, content)
}

/** With the letter that comes next, from where they are. */
function reckoned(reader: SeriesReader, content: SeriesContent): SeriesReader {
  const place: SeriesPlace = reader.days < 0 ? null : { days: reader.days, time: reader.time }
  const next = nextStep(content, place, reader.began, reader.zone)
  return { ...reader, due: next?.due ?? null, step: next?.step.id ?? '' }
}

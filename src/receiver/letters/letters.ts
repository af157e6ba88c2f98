import type { SeriesState } from '#core/api'
import { inboxOf } from '#core/email'
import type { LetterId, MemberId, SendingId, SeriesId } from '#core/ids'
import {
  isRefusedTooOften,
  type LetterBody,
  type LetterContent,
  type LetterTime,
  linksOfLetter,
  momentFor,
  picturesOf,
  REFUSED_AMONG,
  type CopyState,
  type Sending,
  type SeriesStep,
  type SendingSource,
} from '#core/letter'
import { matches, type Member } from '#core/list'
import { momentIn } from '#core/zone'
import { MAIL, mailJob, type MailBody } from '../mail/queued'
import type { Transaction } from '../subjects'
import { type Job, type JobOutcome, LATER } from '../work'
import type { Writing } from '../writing'
import { inboxHash } from './inbox'
import { readerAt, SeriesWork } from './series'
import type { StoredCopy, StoredSending } from './tables'
import { zoneOf } from './zone-of'

/** As many copies of all letters wait among the mails that go next: more than go at once, and few enough to be taken back in a moment. */
const MOST_QUEUED = 600
/** People who are looked at in one transaction. */
const PEOPLE_AT_ONCE = 1_000
const TRIAL = 'letter trial '
const TRIAL_KEPT_MS = 30 * 60_000
/** Where days begin first. */
const FIRST_ZONE = 'Pacific/Kiritimati'
/** Letters of a series go before others of the same day. */
const SERIES_PRIORITY = LATER + 1
const LETTER_PRIORITY = LATER + 2

export interface NewSending {
  id: SendingId
  source: SendingSource
  content: LetterContent
  when: LetterTime
}

export interface PastSending extends NewSending {
  state: 'going' | 'done'
  /** Milliseconds since 1970. */
  at: number
  /** Whose copy, in which state, and since when or, of one that waits, from when. */
  copies: readonly { member: Member; state: CopyState; at: number; hasLeft?: boolean }[]
  /** By the number of the link. */
  presses: readonly number[]
}

/** Letters on their way to the people of lists. Every promise of a writing method resolves after its change is on disk. */
export interface Letters {
  /** Has a letter go; one with the same id stays as it was. `asks` waits for its owner's yes. */
  send(sending: NewSending, asks?: boolean): Promise<Sending>
  sending(id: string): Promise<Sending | null>
  /** Newest first. */
  sendings(limit: number): Promise<Sending[]>
  yes(id: string): Promise<Sending | null>
  stop(id: string, said?: string): Promise<Sending | null>
  goOn(id: string): Promise<Sending | null>
  cancel(id: string): Promise<Sending | null>
  /** Mends the words of what is not sent yet. */
  mend(id: string, body: LetterBody): Promise<Sending | null>
  /** The words that somebody got; those of now for whoever has none. */
  contentFor(id: string, member: string | null): Promise<{ sending: StoredSending; content: LetterContent } | null>
  /** Somebody left by a letter's link. */
  leftBy(id: string, member: MemberId): Promise<void>
  /** What a report told of somebody's copy. */
  reported(id: string, member: MemberId, what: 'bounced' | 'complained'): Promise<void>
  /** Counts a press; where it leads, or null for a link that is none. */
  press(id: string, link: number): Promise<string | null>
  /** Where it leads, uncounted. */
  linkAt(id: string, link: number): Promise<string | null>
  /** The numbers of a letter's counted links, by address. */
  linkNumbers(id: string): Promise<Map<string, number>>
  presses(id: string): Promise<{ address: string; presses: number }[]>
  isPicture(id: string): Promise<boolean>
  copiesOf(member: MemberId, limit: number): Promise<StoredCopy[]>
  /** The people of a list after a running number, in order. */
  people(list: string, rank: number, limit: number): Promise<{ rank: number; member: Member }[]>
  seriesState(series: string): Promise<SeriesState>
  /** A letter that is tried: known by its id until it is dropped, and by that alone. */
  keepTrial(id: SendingId, content: LetterContent): Promise<void>
  dropTrial(id: SendingId): Promise<void>
  /** Takes in a letter that went, or goes, before this receiver was here: with what became of each copy, and of its links. */
  keepPast(past: PastSending): Promise<void>
  /** Takes in where somebody is in a series already. */
  keepReaderAt(series: SeriesId, member: Member, place: SeriesStep): Promise<void>
  /** What there is to do now; milliseconds until there may be more, null for nothing in sight. */
  work(): Promise<number | null>
  /** Another receiver did it meanwhile: what is kept in memory is read anew. */
  beginAnew(): void
  /** Called in the transaction in which the outcome of a mail's try is written. */
  tried(transaction: Transaction, job: Job, outcome: JobOutcome): Promise<void>
  /** Which words went into a mail that is being sent. */
  composed(jobId: string, words: number): void
}

/** Names the mail of one reader's copy, whenever it is tried. */
export const letterJobId = (sending: string, member: string) => `l-${sending}-${member}`
/** What letters of an inbox are counted by: in none of the limits that hold against strangers. */
export const letterKey = (inbox: string) => `letter ${inbox}`

export function openLetters(writing: Writing): Letters {
  const { engine, runAsIs, now, sureNow, published } = writing
  const series = new SeriesWork(writing)
  /** Until a mail is settled; by the process that sends it. */
  const wordsInHand = new Map<string, number>()

  const withCounts = async (stored: StoredSending): Promise<Sending> => {
    const { settling: _settling, forgivenAt: _forgivenAt, ...sending } = stored
    return { ...sending, counts: await engine.now.countsOfSending(stored.id) }
  }
  const change = async (
    id: string,
    recipe: (stored: StoredSending, transaction: Transaction) => Promise<StoredSending | null>,
  ): Promise<Sending | null> => {
    const changed = await runAsIs(async (transaction) => {
      const stored = await transaction.sending(id)
      const next = stored === null ? null : await recipe(stored, transaction)
      if (next !== null) await transaction.keepSending(next)
      return next ?? stored
    })
    return changed === null ? null : withCounts(changed)
  }

  const trial = async (id: string): Promise<StoredSending | null> => {
    const content = (await engine.now.value(`${TRIAL}${id}`, now())) as LetterContent | null
    const letter = { kind: 'letter', id: id as unknown as LetterId } as const
    return content === null
      ? null
      : newSending({ id: id as SendingId, source: letter, content, when: { kind: 'now' } }, true, now())
  }

  /** What is not in somebody's hand waits again. */
  async function takeBack(transaction: Transaction, id: string): Promise<void> {
    for (const copy of await transaction.copiesQueued(id)) {
      const job = await transaction.job(letterJobId(id, copy.member))
      if (job !== null && (job.state !== 'open' || job.heldUntil > 0)) continue
      if (job !== null) await transaction.dropJob(job.id)
      await transaction.moveCopy(copy, 'waiting', now())
    }
  }

  /** Addresses get their numbers, and pictures stay, with the words that have them. */
  async function keepParts(transaction: Transaction, id: string, content: LetterContent): Promise<void> {
    for (const picture of picturesOf(content)) await transaction.keepLetterPicture(picture, id)
    if (content.countsLinks)
      await transaction.keepLinks(
        id,
        linksOfLetter(content).map(({ address }) => address),
      )
  }

  /** Puts the next of its readers down, in the order in which they joined. Resolves with whether there are more. */
  async function settleSome(id: string): Promise<boolean> {
    return runAsIs(async (transaction) => {
      const stored = await transaction.sending(id)
      if (stored?.state !== 'settling' || stored.settling === null) return false
      const { content, when } = stored
      const { list: at, rank } = stored.settling
      const list = content.lists[at]
      if (list === undefined) {
        await transaction.keepSending({ ...stored, state: 'going', settling: null })
        return false
      }
      const page = await transaction.membersAfterRank(list, rank, PEOPLE_AT_ONCE)
      let added = 0
      for (const { member } of page) {
        if (!isReader(member, content, now())) continue
        const isNew = await transaction.addCopy({
          ...{ sending: stored.id, inbox: inboxHash(member.email.compared), member: member.id, list: member.list },
          at: Math.max(stored.startsAt, momentFor(when, zoneOf(published, member), stored.startsAt)),
        })
        if (isNew) added += 1
      }
      if (added > 0) await transaction.countCopies(id, 'waiting', added)
      const settling = page.length < PEOPLE_AT_ONCE ? { list: at + 1, rank: 0 } : { list: at, rank: page.at(-1)!.rank }
      await transaction.keepSending({ ...stored, settling })
      return true
    })
  }

  /** Moves those whose turn it is among the mails that go next. Resolves with when there is more to do. */
  async function topUp(going: readonly StoredSending[]): Promise<number | null> {
    let soonest: number | null = null
    const waitUntil = (ms: number) => (soonest = soonest === null ? ms : Math.min(soonest, ms))
    const all = await Promise.all(
      going.map(async ({ id, source }) => ({ id, source, ...(await engine.now.countsOfSending(id)) })),
    )
    // Of several letters none waits until a long one is through.
    const share = Math.ceil(MOST_QUEUED / Math.max(1, all.filter(({ waiting }) => waiting > 0).length))
    for (const { id, source, waiting, queued } of all) {
      if (waiting === 0) {
        if (queued === 0 && source.kind !== 'series') await finish(id)
        continue
      }
      // In stretches: each costs a commit.
      const room = share - queued
      if (room < share / 4) {
        waitUntil(1_000)
        continue
      }
      await runAsIs((transaction) => queueSome(transaction, id, room))
      const next = await engine.now.nextCopyDue(id)
      if (next !== null) waitUntil(Math.max(50, next - sureNow()))
    }
    return soonest
  }

  async function queueSome(transaction: Transaction, id: string, room: number): Promise<void> {
    const stored = await transaction.sending(id)
    if (stored?.state !== 'going') return
    const due = await transaction.copiesDue(id, sureNow(), room)
    for (const copy of due) {
      const member = await transaction.member(copy.member)
      if (member === null) {
        await transaction.moveCopy(copy, 'dropped', now())
        continue
      }
      await transaction.moveCopy(copy, 'queued', now())
      await transaction.queue(jobOf(stored, copy, member, now()))
    }
  }

  /** Of a letter of a series: whether the series still has it. */
  function isPartOfSeries({ source }: StoredSending): boolean {
    if (source.kind !== 'series') return true
    const series = published.series().find(({ id }) => id === source.id)
    return series?.published?.steps.some(({ id }) => id === source.step) === true
  }

  /** Ends a letter of a series that was taken away: nobody more gets it. */
  async function end(id: string): Promise<void> {
    await change(id, async (stored, transaction) => {
      await takeBack(transaction, id)
      await transaction.dropWaiting(id)
      return { ...stored, state: 'done', endedAt: now() }
    })
  }

  async function finish(id: string): Promise<void> {
    await change(id, async (stored, transaction) => {
      const { waiting, queued } = await transaction.countsOfSending(id)
      if (stored.state !== 'going' || waiting > 0 || queued > 0) return null
      return { ...stored, state: 'done', endedAt: now() }
    })
  }

  return {
    async send({ id, source, content, when }, asks = false) {
      const stored = await runAsIs(async (transaction) => {
        const before = await transaction.sending(id)
        if (before !== null) return before
        const sending = newSending({ id, source, content, when }, asks, now())
        await transaction.keepSending(sending)
        await keepParts(transaction, id, content)
        return sending
      })
      return withCounts(stored)
    },
    async sending(id) {
      const stored = await engine.now.sending(id)
      return stored === null ? null : withCounts(stored)
    },
    async sendings(limit) {
      return Promise.all((await engine.now.sendings(limit)).map(withCounts))
    },
    yes: (id) =>
      change(id, async (stored) =>
        stored.state === 'asks'
          ? { ...stored, state: 'planned', startsAt: startOf(stored.when, now()), said: '' }
          : null,
      ),
    stop: (id, said = 'Stopped by you.') =>
      change(id, async (stored, transaction) => {
        if (!['planned', 'settling', 'going'].includes(stored.state)) return null
        await takeBack(transaction, id)
        return { ...stored, state: 'stopped', said }
      }),
    goOn: (id) =>
      change(id, async (stored) => {
        if (stored.state !== 'stopped') return null
        const state = stored.settling === null ? 'going' : hasBegun(stored) ? 'settling' : 'planned'
        return { ...stored, state, said: '', forgivenAt: now() }
      }),
    cancel: (id) =>
      change(id, async (stored, transaction) => {
        // A series is paused, or taken away, as a whole.
        if (stored.state === 'done' || stored.state === 'cancelled' || stored.source.kind === 'series') return null
        await takeBack(transaction, id)
        await transaction.dropWaiting(id)
        return { ...stored, state: 'cancelled', endedAt: now(), said: 'Cancelled by you.' }
      }),
    mend: (id, body) =>
      change(id, async (stored, transaction) => {
        if (stored.state === 'done' || stored.state === 'cancelled' || stored.source.kind === 'series') return null
        await transaction.keepWords(id, stored.mended, stored.content)
        const content: LetterContent = { ...stored.content, ...body }
        await keepParts(transaction, id, content)
        return { ...stored, content, mended: stored.mended + 1 }
      }),
    async contentFor(id, member) {
      const sending = (await engine.now.sending(id)) ?? (await trial(id))
      if (sending === null) return null
      const copy = member === null ? null : await engine.now.copyOf(id, member)
      const hasIt = copy?.state === 'sent' || copy?.state === 'bounced'
      const isOlder = copy !== null && hasIt && copy.words !== sending.mended
      const older = isOlder ? ((await engine.now.wordsOf(id, copy.words)) as LetterContent | null) : null
      return { sending, content: older ?? sending.content }
    },
    async leftBy(id, member) {
      await runAsIs(async (transaction) => {
        const copy = await transaction.copyOf(id, member)
        if (copy !== null) await transaction.markCopy(copy, 'left')
      })
    },
    async reported(id, member, what) {
      await runAsIs(async (transaction) => {
        const copy = await transaction.copyOf(id, member)
        if (copy === null) return
        if (what === 'complained') return transaction.markCopy(copy, 'complained')
        if (copy.state !== 'sent') return
        await transaction.moveCopy(copy, 'bounced', copy.at)
        await stopWhenRefused(transaction, id)
      })
    },
    press: (id, link) => engine.run((transaction) => transaction.countPress(id, link)),
    linkAt: async (id, link) => (await engine.now.linksOf(id)).find(({ number }) => number === link)?.address ?? null,
    linkNumbers: async (id) => new Map((await engine.now.linksOf(id)).map(({ address, number }) => [address, number])),
    presses: async (id) => (await engine.now.linksOf(id)).map(({ address, presses }) => ({ address, presses })),
    isPicture: (id) => engine.now.isLetterPicture(id),
    copiesOf: (member, limit) => engine.now.copiesOfMember(member, limit),
    people: (list, rank, limit) => engine.now.membersAfterRank(list, rank, limit),
    keepTrial: (id, content) =>
      engine.run(async (transaction) => {
        await transaction.keepValue(`${TRIAL}${id}`, content, now() + TRIAL_KEPT_MS)
        await keepParts(transaction, id, content)
      }),
    dropTrial: (id) =>
      engine.run(async (transaction) => {
        await transaction.dropValue(`${TRIAL}${id}`)
        await transaction.dropSending(id)
      }),
    async seriesState(id) {
      const rows = await engine.now.countSeriesReaders(id)
      const at = (isEnd: boolean) => rows.filter(({ step }) => (step === '') === isEnd)
      const sum = (some: typeof rows) => some.reduce((all, { count }) => all + count, 0)
      const next = Object.fromEntries(at(false).map(({ step, count }) => [step, count]))
      return { going: sum(at(false)), done: sum(at(true)), next }
    },
    async keepPast({ id, source, content, when, state, at, copies, presses }) {
      await runAsIs(async (transaction) => {
        const made = newSending({ id, source, content, when }, false, at)
        const ended = { settling: null, state, endedAt: state === 'done' ? copies.at(-1)!.at : null }
        await transaction.keepSending({ ...made, ...ended })
        await keepParts(transaction, id, content)
        for (const { member, state, at, hasLeft } of copies) {
          const inbox = inboxHash(member.email.compared)
          if (!(await transaction.addCopy({ sending: id, inbox, member: member.id, list: member.list, at }))) continue
          await transaction.countCopies(id, 'waiting', 1)
          const copy = (await transaction.copyOf(id, member.id))!
          await transaction.moveCopy(copy, state, at)
          if (hasLeft === true) await transaction.markCopy(copy, 'left')
        }
        for (const [number, count] of presses.entries())
          for (let press = 0; press < count; press += 1) await transaction.countPress(id, number)
      })
    },
    keepReaderAt: (id, member, place) =>
      engine.run((transaction) => {
        const content = published.series().find((one) => one.id === id)!.published!
        return transaction.keepSeriesReader(readerAt(id, content, { member, zone: zoneOf(published, member) }, place))
      }),
    beginAnew: () => series.beginAnew(),
    async work() {
      const nextOfSeries = await series.work()
      if (nextOfSeries === 0) return 0
      const at = sureNow()
      for (const stored of await engine.now.sendingsInState('planned'))
        if (stored.startsAt <= at)
          await change(stored.id, async (one) => (one.state === 'planned' ? { ...one, state: 'settling' } : null))
      for (const { id } of await engine.now.sendingsInState('settling')) if (await settleSome(id)) return 0
      const planned = await engine.now.sendingsInState('planned')
      const going: StoredSending[] = []
      for (const stored of await engine.now.sendingsInState('going'))
        if (isPartOfSeries(stored)) going.push(stored)
        else await end(stored.id)
      const more = going.length === 0 ? null : await topUp(going)
      const next = planned.map(({ startsAt }) => Math.max(50, startsAt - sureNow()))
      const all = [...next, ...[more, nextOfSeries].filter((ms) => ms !== null)]
      return all.length === 0 ? null : Math.min(...all)
    },
    async tried(transaction, { id: jobId, worker, space, body }, outcome) {
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
      const words = wordsInHand.get(jobId) ?? stored.mended
      wordsInHand.delete(jobId)
      await transaction.moveCopy(copy, to, now(), words)
      if (to === 'refused') await stopWhenRefused(transaction, id)
    },
    composed(jobId, words) {
      wordsInHand.set(jobId, words)
    },
  }

  /** Stops a letter that too many servers refuse: something is wrong with it, with its sender, or with its list. */
  async function stopWhenRefused(transaction: Transaction, id: string): Promise<void> {
    const stored = await transaction.sending(id)
    if (stored === null || (stored.state !== 'going' && stored.state !== 'settling')) return
    const newest = await transaction.newestEnded(id, stored.forgivenAt ?? 0, REFUSED_AMONG)
    if (!isRefusedTooOften(newest)) return
    const refused = newest.filter((state) => state !== 'sent').length
    await takeBack(transaction, id)
    await transaction.keepSending({
      ...stored,
      state: 'stopped',
      said: `It stopped by itself: of the last ${newest.length}, ${refused} were refused.`,
    })
  }
}

/** Whether somebody gets a letter, as they are now. */
export function isReader(member: Member, { readers }: Pick<LetterContent, 'readers'>, now: number): boolean {
  return member.status === 'confirmed' && (readers.kind === 'everybody' || matches(readers.filter, member, now))
}

function newSending({ id, source, content, when }: NewSending, asks: boolean, now: number): StoredSending {
  return {
    ...{ id, source, content, when, createdAt: now, startsAt: startOf(when, now), endedAt: null, mended: 0 },
    ...(source.kind === 'series'
      ? { state: 'going' as const, settling: null }
      : { state: asks ? ('asks' as const) : ('planned' as const), settling: { list: 0, rank: 0 } }),
    said: '',
  }
}

/** When the first of its readers may get it. */
function startOf(when: LetterTime, now: number): number {
  return when.kind === 'local'
    ? Math.max(now, momentIn(FIRST_ZONE, when.day, when.time))
    : momentFor(when, undefined, now)
}

const hasBegun = ({ settling }: StoredSending) => settling !== null && (settling.list > 0 || settling.rank > 0)

function jobOf(stored: StoredSending, copy: StoredCopy, member: Member, now: number): Job {
  return mailJob(
    { list: member.list, member: member.id, kind: 'letter', recipient: member.email, sending: stored.id },
    now,
    {
      id: letterJobId(stored.id, copy.member),
      limitKey: letterKey(inboxOf(member.email.compared)),
      priority: stored.source.kind === 'series' ? SERIES_PRIORITY : LETTER_PRIORITY,
    },
  )
}

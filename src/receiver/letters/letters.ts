import type { SeriesState } from '#core/api'
import type { LetterId, MemberId, SendingId, SeriesId } from '#core/ids'
import type { CopyState, LetterBody, LetterContent, Sending, SeriesStep } from '#core/letter'
import type { Member } from '#core/list'
import type { Transaction } from '../subjects'
import type { Job, JobOutcome } from '../work'
import type { Writing } from '../writing'
import { Copies } from './copies'
import { SendingWork } from './sending-work'
import { inboxHash } from './inbox'
import { SendingStore } from './sending-store'
import { newSending, type NewSending, startOf } from './new-sending'
import { readerAt, SeriesWork } from './series'
import type { StoredCopy, StoredSending } from './tables'
import { zoneOf } from './zone-of'

const TRIAL = 'letter trial '
const TRIAL_KEPT_MS = 30 * 60_000

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

export function openLetters(writing: Writing): Letters {
  const store = new SendingStore(writing)
  const series = new SeriesWork(writing)
  const sendings = new SendingWork(store, series)
  const copies = new Copies(store)
  return {
    ...readingOf(store),
    ...steeringOf(store),
    ...trialsOf(writing, store),
    ...takingInOf(writing, store),
    press: (id, link) => writing.engine.run((transaction) => transaction.countPress(id, link)),
    leftBy: (id, member) => copies.leftBy(id, member),
    reported: (id, member, what) => copies.reported(id, member, what),
    tried: (transaction, job, outcome) => copies.tried(transaction, job, outcome),
    composed: (jobId, words) => copies.composed(jobId, words),
    work: () => sendings.work(),
    beginAnew: () => series.beginAnew(),
  }
}

type Part<Method extends keyof Letters> = Pick<Letters, Method>

function readingOf(
  store: SendingStore,
): Part<
  | 'sending'
  | 'sendings'
  | 'contentFor'
  | 'linkAt'
  | 'linkNumbers'
  | 'presses'
  | 'isPicture'
  | 'copiesOf'
  | 'people'
  | 'seriesState'
> {
  const { engine, now } = store.writing
  return {
    async sending(id) {
      const stored = await engine.now.sending(id)
      return stored === null ? null : store.withCounts(stored)
    },
    async sendings(limit) {
      return Promise.all((await engine.now.sendings(limit)).map((stored) => store.withCounts(stored)))
    },
    async contentFor(id, member) {
      const sending = (await engine.now.sending(id)) ?? (await trial(id))
      if (sending === null) return null
      const copy = member === null ? null : await engine.now.copyOf(id, member)
      const hasIt = copy?.state === 'sent' || copy?.state === 'bounced'
      const isOlder = copy !== null && hasIt && copy.words !== sending.mended
      const older = isOlder ? ((await engine.now.wordsOf(id, copy.words)) as LetterContent | null) : null
      return { sending, content: older ?? sending.content }
    },
    linkAt: async (id, link) => (await engine.now.linksOf(id)).find(({ number }) => number === link)?.address ?? null,
    linkNumbers: async (id) => new Map((await engine.now.linksOf(id)).map(({ address, number }) => [address, number])),
    presses: async (id) => (await engine.now.linksOf(id)).map(({ address, presses }) => ({ address, presses })),
    isPicture: (id) => engine.now.isLetterPicture(id),
    copiesOf: (member, limit) => engine.now.copiesOfMember(member, limit),
    people: (list, rank, limit) => engine.now.membersAfterRank(list, rank, limit),
    async seriesState(id) {
      const rows = await engine.now.countSeriesReaders(id)
      const at = (isEnd: boolean) => rows.filter(({ step }) => (step === '') === isEnd)
      const sum = (some: typeof rows) => some.reduce((all, { count }) => all + count, 0)
      const next = Object.fromEntries(at(false).map(({ step, count }) => [step, count]))
      return { going: sum(at(false)), done: sum(at(true)), next }
    },
  }

  async function trial(id: string): Promise<StoredSending | null> {
    const content = (await engine.now.value(`${TRIAL}${id}`, now())) as LetterContent | null
    const source = { kind: 'letter', id: id as unknown as LetterId } as const
    return content === null
      ? null
      : newSending({ id: id as SendingId, source, content, when: { kind: 'now' } }, true, now())
  }
}

/** What its owner does with a letter. */
function steeringOf(store: SendingStore): Part<'send' | 'yes' | 'stop' | 'goOn' | 'cancel' | 'mend'> {
  const { runAsIs, now } = store.writing
  // A series is paused, or taken away, as a whole.
  const hasEnded = ({ state, source }: StoredSending) =>
    state === 'done' || state === 'cancelled' || source.kind === 'series'
  return {
    async send({ id, source, content, when }, asks = false) {
      const stored = await runAsIs(async (transaction) => {
        const before = await transaction.sending(id)
        if (before !== null) return before
        const sending = newSending({ id, source, content, when }, asks, now())
        await transaction.keepSending(sending)
        await store.keepParts(transaction, id, content)
        return sending
      })
      return store.withCounts(stored)
    },
    yes: (id) =>
      store.change(id, async (stored) =>
        stored.state === 'asks'
          ? { ...stored, state: 'planned', startsAt: startOf(stored.when, now()), said: '' }
          : null,
      ),
    stop: (id, said = 'Stopped by you.') =>
      store.change(id, async (stored, transaction) => {
        if (!['planned', 'settling', 'going'].includes(stored.state)) return null
        await store.takeBack(transaction, id)
        return { ...stored, state: 'stopped', said }
      }),
    goOn: (id) =>
      store.change(id, async (stored) => {
        if (stored.state !== 'stopped') return null
        const state = stored.settling === null ? 'going' : hasBegun(stored) ? 'settling' : 'planned'
        return { ...stored, state, said: '', forgivenAt: now() }
      }),
    cancel: (id) =>
      store.change(id, async (stored, transaction) => {
        if (hasEnded(stored)) return null
        await store.takeBack(transaction, id)
        await transaction.dropWaiting(id)
        return { ...stored, state: 'cancelled', endedAt: now(), said: 'Cancelled by you.' }
      }),
    mend: (id, body) =>
      store.change(id, async (stored, transaction) => {
        if (hasEnded(stored)) return null
        await transaction.keepWords(id, stored.mended, stored.content)
        const content: LetterContent = { ...stored.content, ...body }
        await store.keepParts(transaction, id, content)
        return { ...stored, content, mended: stored.mended + 1 }
      }),
  }
}

function trialsOf({ engine, now }: Writing, store: SendingStore): Part<'keepTrial' | 'dropTrial'> {
  return {
    keepTrial: (id, content) =>
      engine.run(async (transaction) => {
        await transaction.keepValue(`${TRIAL}${id}`, content, now() + TRIAL_KEPT_MS)
        await store.keepParts(transaction, id, content)
      }),
    dropTrial: (id) =>
      engine.run(async (transaction) => {
        await transaction.dropValue(`${TRIAL}${id}`)
        await transaction.dropSending(id)
      }),
  }
}

/** Letters and readers that began elsewhere. */
function takingInOf({ engine, runAsIs, published }: Writing, store: SendingStore): Part<'keepPast' | 'keepReaderAt'> {
  return {
    async keepPast({ id, source, content, when, state, at, copies, presses }) {
      await runAsIs(async (transaction) => {
        const made = newSending({ id, source, content, when }, false, at)
        const ended = { settling: null, state, endedAt: state === 'done' ? copies.at(-1)!.at : null }
        await transaction.keepSending({ ...made, ...ended })
        await store.keepParts(transaction, id, content)
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
  }
}

const hasBegun = ({ settling }: StoredSending) => settling !== null && (settling.list > 0 || settling.rank > 0)

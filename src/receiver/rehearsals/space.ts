import { parseEmail } from '#core/email'
import type { ListId } from '#core/ids'
import { type Arrival, emailIn, type Entry, type NewEntry, type SentMessage } from '#core/journal'
import type { Member } from '#core/list'
import type { MailSettings } from '#core/mail'
import { REHEARSED_OWNER, rehearsalAddress } from '#core/proof'
import { calm } from '../limits'
import { newOrderedId } from '../random'
import type { MailBody } from '../mail/queued'
import type { Job } from '../work/tables'
import { type Newest } from '../store'
import type { Engine, Transaction } from '../subjects'
import type { FirstAnswer, PeopleStore } from '../people/tables'
import { JournalWriter, type PeopleLedger } from '../people'

/**
 * A journal of its own for a rehearsal's made-up people: written by the same writer and folded by the same fold, in the
 * same store and its commits, and dropped as a whole. Nothing of it is seen by anybody else.
 */
export interface Space extends PeopleLedger {
  /** Puts somebody made up on a list, as if they had joined, and queues a mail to them. */
  place(member: Member, mail: Job): Promise<void>
  /** Members and sign-ups of an address, in any list, and what it wrote to the owner. */
  known(email: string): Promise<{ member: Member | null; arrivals: Arrival[]; messages: SentMessage[] }>
  /** A message by the number of its entry. */
  messageAt(n: number): Promise<SentMessage | null>
  /** Keeps a mail to one of them, where no mailbox takes it. */
  keepMail(mail: SpaceMail): Promise<void>
  mails(): Promise<SpaceMail[]>
  drop(): Promise<void>
}

export interface SpaceMail {
  to: string
  /** Milliseconds since 1970. */
  at: number
  /** Base64. */
  bytes: string
}

export function openSpace({
  engine,
  space,
  now,
  mailOf,
  written,
}: {
  engine: Engine
  space: string
  now: () => number
  mailOf: (list: ListId) => MailSettings | null
  written: () => void
}): Space {
  const writer = new JournalWriter(mailOf)
  const people = peopleOf(engine.now, space)
  const write = async <T>(work: (writer: JournalWriter, people: PeopleStore) => Promise<T>): Promise<T> => {
    const result = await engine.run((transaction) => work(writer, peopleOf(transaction, space)))
    written()
    return result
  }
  return {
    signUp: (signUp, retryKey) =>
      write((writer, people) => writer.signUp(people, signUp, retryKey, { now: now(), cause: calm })),
    member: (id) => people.member(id),
    confirm: (id, since) =>
      write((writer, people) => writer.confirm(people, id, since, { now: now(), sureNow: now() })),
    leave: (id, by) => write((writer, people) => writer.leave(people, id, by, now())),
    comeBack: (id) => write((writer, people) => writer.comeBack(people, id, now())),
    sendAgain: (id, isExtra) => write((writer, people) => writer.sendAgain(people, id, now(), isExtra)),
    expire: (id) => write((writer, people) => writer.expire(people, id, now())),
    place: (member, mail) =>
      write(async (_, people) => {
        await people.keepMember(member)
        await people.queue(mail)
      }),
    async known(email) {
      const parsed = parseEmail(email)
      const theirs = (await people.entriesAfter(0, Infinity))
        .map(({ entry }) => entry)
        .filter((entry) => parsed.ok && emailIn(entry)?.compared === parsed.email.compared)
      const arrivals = theirs.filter((entry) => entry.kind === 'arrival')
      const messages = theirs.filter((entry) => entry.kind === 'message')
      const id = arrivals.findLast(({ member }) => member !== null)?.member ?? null
      return { member: id === null ? null : await people.member(id), arrivals, messages }
    },
    async messageAt(n) {
      const [row] = await people.entriesAfter(n - 1, 1)
      return row?.entry.kind === 'message' ? row.entry : null
    },
    keepMail: (mail) =>
      engine.run((transaction) => transaction.keepPartOfSpace(space, `mail ${newOrderedId(mail.at)}`, mail)),
    mails: async () => (await engine.now.partsOfSpace(space, 'mail ')) as SpaceMail[],
    drop: () => engine.run((transaction) => transaction.dropSpace(space)),
  }
}

/** The parts of a space under keys that say what they are. */
function peopleOf(transaction: Transaction, space: string): PeopleStore {
  const get = async <T>(key: string) => (await transaction.partOfSpace(space, key)) as T | null
  const put = (key: string, value: unknown) => transaction.keepPartOfSpace(space, key, value)
  const entryKey = (n: number) => `entry ${String(n).padStart(9, '0')}`
  const addressKey = (list: string, compared: string) => `address ${list} ${compared}`
  const member = (id: string) => get<Member>(`member ${id}`)
  const newestEntry = async () => (await get<Newest>('newest')) ?? { n: 0, mark: '' }
  const memberWithAddress = async (list: string, compared: string) => {
    const id = await get<string>(addressKey(list, compared))
    return id === null ? null : member(id)
  }
  return {
    newestEntry,
    async append(n, entry, mark) {
      await put(entryKey(n), { entry: { n, ...entry } satisfies NewEntry & { n: number }, mark })
      await put('newest', { n, mark } satisfies Newest)
    },
    async entriesAfter(n, limit) {
      const parts = (await transaction.partsOfSpace(space, 'entry ')) as { entry: Entry; mark: string }[]
      return parts.filter(({ entry }) => entry.n > n).slice(0, limit)
    },
    async markAt(n) {
      return (await get<{ mark: string }>(entryKey(n)))?.mark ?? null
    },
    async newestAndMember(list, compared) {
      return {
        newest: await newestEntry(),
        member: compared === null ? null : await memberWithAddress(list, compared),
      }
    },
    member,
    memberWithAddress,
    async keepMember(one) {
      await put(`member ${one.id}`, one)
      await put(addressKey(one.list, one.email.compared), one.id)
    },
    updateMember: (one) => put(`member ${one.id}`, one),
    // Made-up people are dropped with their space.
    dropMember: async () => {},
    keepFirstAnswer: (key, answer) => put(`answer ${String(answer.n).padStart(9, '0')}`, { key, answer }),
    async firstAnswersAfter(n, from) {
      const parts = (await transaction.partsOfSpace(space, 'answer ')) as { key: string; answer: FirstAnswer }[]
      return parts.filter(({ answer }) => answer.n > n && answer.at >= from)
    },
    // The space ends long before an outcome would be forgotten.
    forgetAnswers: async () => {},
    // Their owner is told of real people alone.
    // The same text comes with each rehearsal, and its messages go with it.
    keepMessage: async () => {},
    countAlike: async () => 0,
    queue: async (job, most) => {
      const body = job.body as MailBody
      if (body.kind === 'notice' || body.kind === 'daily-notice') return false
      if (body.kind !== 'message') return transaction.queue({ ...job, space }, most)
      // What made-up people write goes to somebody made up, and not to their owner.
      const owner = rehearsalAddress(space, REHEARSED_OWNER)
      return transaction.queue({ ...job, space, body: { ...body, recipient: { typed: owner, compared: owner } } })
    },
  }
}

import { parseEmail } from '#core/email'
import type { ListId } from '#core/ids'
import type { Arrival, Entry, NewEntry } from '#core/journal'
import type { Member } from '#core/list'
import type { MailSettings } from '#core/mail'
import { calm } from '../limits'
import type { Engine, Newest, People, Transaction } from '../store/engine'
import { JournalWriter } from './journal'
import type { PeopleLedger } from './ledger'

/**
 * A journal of its own for a rehearsal's made-up people: written by the same writer and folded by the same fold, in the
 * same store and its commits, and dropped as a whole. Nothing of it is seen by anybody else.
 */
export interface Space extends PeopleLedger {
  /** What is known of an address, in any list. */
  known(email: string): { member: Member | null; arrivals: Arrival[] }
  drop(): Promise<void>
}

export function openSpace(
  engine: Engine,
  space: string,
  now: () => number,
  mailOf: (list: ListId) => MailSettings | null,
  written: () => void,
): Space {
  const writer = new JournalWriter({ n: 0, mark: '' }, mailOf)
  const write = <T>(work: (writer: JournalWriter, people: People) => T): Promise<T> =>
    engine
      .run((transaction) => {
        const people = peopleOf(transaction, space)
        writer.newest = people.newestEntry()
        // Of work that was undone.
        writer.forgetFrom(writer.newest.n + 1)
        return work(writer, people)
      })
      .then((result) => {
        written()
        return result
      })
  return {
    signUp: (signUp, retryKey) => write((writer, people) => writer.signUp(people, signUp, retryKey, now(), calm)),
    member: (id) => peopleOf(engine.now, space).member(id),
    confirm: (id, since) => write((writer, people) => writer.confirm(people, id, since, now(), now())),
    leave: (id, by) => write((writer, people) => writer.leave(people, id, by, now())),
    comeBack: (id) => write((writer, people) => writer.comeBack(people, id, now())),
    sendAgain: (id, isExtra) => write((writer, people) => writer.sendAgain(people, id, now(), isExtra)),
    expire: (id) => write((writer, people) => writer.expire(people, id, now())),
    known(email) {
      const parsed = parseEmail(email)
      const arrivals = peopleOf(engine.now, space)
        .entriesAfter(0, Infinity)
        .flatMap(({ entry }) =>
          entry.kind === 'arrival' && parsed.ok && entry.email?.compared === parsed.email.compared ? [entry] : [],
        )
      const id = arrivals.findLast(({ member }) => member !== null)?.member ?? null
      return { member: id === null ? null : peopleOf(engine.now, space).member(id), arrivals }
    },
    drop: () => engine.run((transaction) => transaction.dropSpace(space)),
  }
}

/** The parts of a space under keys that say what they are. */
function peopleOf(transaction: Transaction, space: string): People {
  const get = <T>(key: string) => transaction.partOfSpace(space, key) as T | null
  const put = (key: string, value: unknown) => transaction.keepPartOfSpace(space, key, value)
  const addressKey = (list: string, compared: string) => `address ${list} ${compared}`
  const member = (id: string) => get<Member>(`member ${id}`)
  return {
    newestEntry: () => get<Newest>('newest') ?? { n: 0, mark: '' },
    append(n, entry, mark) {
      put(`entry ${String(n).padStart(9, '0')}`, { entry: { n, ...entry } satisfies NewEntry & { n: number }, mark })
      put('newest', { n, mark } satisfies Newest)
    },
    entriesAfter: (n, limit) =>
      (transaction.partsOfSpace(space, 'entry ') as { entry: Entry; mark: string }[])
        .filter(({ entry }) => entry.n > n)
        .slice(0, limit),
    markAt: (n) => get<{ mark: string }>(`entry ${String(n).padStart(9, '0')}`)?.mark ?? null,
    member,
    memberWithAddress(list, compared) {
      const id = get<string>(addressKey(list, compared))
      return id === null ? null : member(id)
    },
    keepMember(one) {
      put(`member ${one.id}`, one)
      put(addressKey(one.list, one.email.compared), one.id)
    },
    // The space ends with the process, and long before an outcome would be forgotten.
    keepRetry: () => {},
    forgetRetries: () => {},
    forgetOutcomes: () => {},
    // Their owner is told of real people alone.
    queueMail: (mail, most) =>
      mail.kind !== 'notice' && mail.kind !== 'daily-notice' && transaction.queueMail({ ...mail, space }, most),
  }
}

import type { MemberId } from '#core/ids'
import { affectedMembers, applyToMember, type Member } from '#core/list'
import type { Writing } from '../writing'
import type { PeopleQueries } from './tables'

const [ENTRIES_AT_ONCE, ROWS_AT_ONCE] = [500, 5_000]

/** How many rows there are, as of the entry of that number. */
export interface CountedMembers {
  count: number
  n: number
}

/** Entries by which rows may go: erasing, and the undo of an import. */
const MAY_TAKE_ROWS = new Set(['members-erased', 'members-changed', 'member-written'])

/** Looking whether rows of people are as they were written, and putting right those that are not. */
export interface MemberCheck {
  /**
   * Looks at so many rows after an id.
   *
   * @returns those that are not as they were written, and the id that was looked at last; null at the end
   */
  checkMembers(after: string, limit: number): Promise<{ damaged: MemberId[]; last: string | null }>
  /**
   * Counts rows.
   *
   * @param before what this resolved with last; null for the first time
   * @returns how many are there as of which entry, and how many are gone at least without an entry that says so: those who
   *   joined meanwhile stand for others
   */
  countMembers(before: CountedMembers | null): Promise<CountedMembers & { lost: number }>
  /** A list’s rows, in order, some at once, for comparing them with what a workshop has; null for what is no row any more. */
  membersAsTheyLie(list: string, rank: number, limit: number): Promise<{ rank: number; member: Member | null }[]>
  /** Writes rows anew from the journal, of which they are the fold. Resolves with how many; those that it does not know stay. */
  mendMembers(ids: readonly MemberId[]): Promise<number>
  /** Writes those rows anew that the journal has and the store has not. Resolves with how many. */
  restoreMembers(): Promise<number>
}

export function openMemberCheck({ engine, run }: Pick<Writing, 'engine' | 'run'>): MemberCheck {
  return {
    async checkMembers(after, limit) {
      const rows = await engine.now.memberRowsAfter(after, limit)
      return {
        damaged: rows.filter(({ isWhole }) => !isWhole).map(({ id }) => id),
        last: rows.length < limit ? null : rows.at(-1)!.id,
      }
    },
    async countMembers(before) {
      // The count first: entries that come meanwhile can only explain more.
      const count = await engine.now.countMembers()
      let gone = 0
      let n = before?.n ?? 0
      if (before === null) return { count, n: (await engine.now.newestEntry()).n, lost: 0 }
      for (let isEnd = false; !isEnd;) {
        const page = await engine.now.entriesAfter(n, ENTRIES_AT_ONCE)
        for (const { entry } of page) {
          n = entry.n
          if (MAY_TAKE_ROWS.has(entry.kind)) gone += affectedMembers(entry).length
        }
        isEnd = page.length < ENTRIES_AT_ONCE
      }
      return { count, n, lost: Math.max(0, before.count - gone - count) }
    },
    membersAsTheyLie: (list, rank, limit) => engine.now.membersAsTheyLie(list, rank, limit),
    async mendMembers(ids) {
      const wanted = new Set(ids)
      return rewritten(
        (id) => wanted.has(id),
        (transaction, member) => transaction.updateMember(member),
      )
    },
    async restoreMembers() {
      const there = new Set<MemberId>()
      for (let last: string | null = ''; last !== null;) {
        const rows: { id: MemberId }[] = await engine.now.memberRowsAfter(last, ROWS_AT_ONCE)
        for (const { id } of rows) there.add(id)
        last = rows.length < ROWS_AT_ONCE ? null : rows.at(-1)!.id
      }
      return rewritten(
        (id) => !there.has(id),
        async (transaction, member) => {
          const { id, list, email } = member
          // Who has signed up again meanwhile is there under another id.
          const isThere =
            (await transaction.member(id)) !== null ||
            (await transaction.memberWithAddress(list, email.compared)) !== null
          if (!isThere) await transaction.keepMember(member)
        },
      )
    },
  }

  /** Folds the journal for some, and has each of them who is somebody written. Resolves with how many those are. */
  async function rewritten(
    isWanted: (id: MemberId) => boolean,
    write: (transaction: PeopleQueries, member: Member) => Promise<void>,
  ): Promise<number> {
    const members = new Map<MemberId, Member | null>()
    let n = 0
    const foldIn = async (queries: Pick<PeopleQueries, 'entriesAfter'>): Promise<void> => {
      for (let isEnd = false; !isEnd;) {
        const page = await queries.entriesAfter(n, ENTRIES_AT_ONCE)
        for (const { entry } of page) {
          n = entry.n
          for (const id of affectedMembers(entry))
            if (isWanted(id)) members.set(id, applyToMember(members.get(id) ?? null, entry))
        }
        isEnd = page.length < ENTRIES_AT_ONCE
      }
    }
    await foldIn(engine.now)
    return run(async (transaction) => {
      // What came meanwhile, so that nothing comes between.
      await foldIn(transaction)
      const somebody = [...members.values()].filter((member) => member !== null)
      for (const member of somebody) await write(transaction, member)
      return somebody.length
    })
  }
}

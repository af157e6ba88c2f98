import type { CommandOutcome } from '#core/api'
import type { ListId, MemberId } from '#core/ids'
import type { Entry, NewEntry, Verdict } from '#core/journal'
import type { Member, MemberStatus } from '#core/list'
import { endOf, type Newest, newestOf, parsed, type Row, type SubjectTables } from '../store'
import { isAsWritten, memberOf, memberText, uncheckedMember } from './member-row'
import { migrations } from './schema'
import { peopleStatements } from './statements'
import { gatherPeople } from './gathering'
import type { MessageIntake } from '../messages/tables'
import type { WorkQueries } from '../work/tables'

/** How long the same bytes from the same address repeat the first answer: a double click, a network's retry. */
export const RETRY_WINDOW_MS = 30_000

/** What came of a sign-up, or of a message without one. */
export type SignUpVerdict = Verdict | 'message-sent'

/** First answer to a sign-up, repeated for a retry. */
export interface FirstAnswer {
  /** The entry that came of it. */
  n: number
  /** When, in milliseconds since 1970. */
  at: number
  verdict: SignUpVerdict
  /** Whether the mail that it would have caused was held back. */
  isMailHeld: boolean
}

/** The journal. */
export interface PeopleHistory {
  newestEntry(): Promise<Newest>
  append(n: number, entry: NewEntry, mark: string): Promise<void>
  /** Oldest first. */
  entriesAfter(n: number, limit: number): Promise<{ entry: Entry; mark: string }[]>
  markAt(n: number): Promise<string | null>
  /** The journal's end and the member with an address, in one query: a sign-up is decided by both. */
  newestAndMember(list: string, compared: string | null): Promise<{ newest: Newest; member: Member | null }>
  member(id: MemberId): Promise<Member | null>
  memberWithAddress(list: string, compared: string): Promise<Member | null>
  keepMember(member: Member): Promise<void>
  /** The same for an existing member whose address and time of joining stay: half the work. */
  updateMember(member: Member): Promise<void>
  /** Deletes a member; journal entries stay. */
  dropMember(id: MemberId): Promise<void>
  /** @param retryKey names who sent exactly what */
  keepFirstAnswer(retryKey: string, answer: FirstAnswer): Promise<void>
  /** Those of entries after `n` and from a time on, oldest first. */
  firstAnswersAfter(n: number, from: number): Promise<{ key: string; answer: FirstAnswer }[]>
  /** Forgets first answers of entries before `n`, and outcomes of commands from before a time. */
  forgetAnswers(before: number, outcomesBefore: number): Promise<void>
}

/** The history of everybody, or of a rehearsal's made-up people alone, and the queue for what follows of it. */
export type PeopleStore = PeopleHistory & MessageIntake & Pick<WorkQueries, 'queue'>

/** What somebody will ask for, one by one. */
export interface ReadAhead {
  addresses?: readonly { list: string; compared: string }[]
  members?: readonly MemberId[]
  /** Of addresses that may have been erased. */
  hashes?: readonly string[]
}

export interface PeopleQueries extends PeopleHistory {
  /** Reads at once what is asked for in this transaction, where that is quicker: nothing else comes of it. */
  readAhead(what: ReadAhead): Promise<void>
  /**
   * Entries after a number as the inside of a JSON array, and the number of the last; null for none. Whoever pulls all of it
   * costs no reading and writing of each part.
   */
  entriesTextAfter(n: number, limit: number): Promise<{ n: number; text: string } | null>
  /** All entries that marked somebody as one whose address takes no mail, oldest first. */
  bounces(): Promise<Entry[]>
  /** All entries by which somebody put their address right. Reads the whole journal. */
  corrections(): Promise<Entry[]>
  /** Blanks an entry's personal part and its salt. Takes the entry as it is from then on. */
  blankEntry(n: number, entry: NewEntry): Promise<void>
  isErased(hash: string): Promise<boolean>
  keepErased(hash: string): Promise<void>
  /** Forgets outcomes of commands that have a text in them; resolves with how many. */
  dropOutcomesWith(text: string): Promise<number>
  outcome(id: string): Promise<CommandOutcome | null>
  keepOutcome(id: string, at: number, outcome: CommandOutcome): Promise<void>
  /** Everybody of a list whose number is higher, in order. */
  membersAfterRank(list: string, rank: number, limit: number): Promise<{ rank: number; member: Member }[]>
  /** The same without looking whether rows are as they were written; null for what is no row any more. */
  membersAsTheyLie(list: string, rank: number, limit: number): Promise<{ rank: number; member: Member | null }[]>
  /** By their ids, and whether each is as it was written. */
  memberRowsAfter(id: string, limit: number): Promise<{ id: MemberId; isWhole: boolean }[]>
  countMembers(): Promise<number>
  /** Lists that somebody waits for, or did. */
  listsWithWaiting(): Promise<ListId[]>
  /** Members of a list who have been waiting since before a time, or who did; oldest first. */
  waitingSince(list: ListId, before: number): Promise<MemberId[]>
  /** Members of a list with a status, the longest on it first; at most some thousands. */
  membersWithStatus(list: ListId, status: MemberStatus): Promise<Member[]>
  /** Running number of a member on their list, from 1, gaps kept; null for no member. */
  rankOf(member: MemberId): Promise<number | null>
  /** The highest number that a list has given; 0 for none. */
  highestRank(list: string): Promise<number>
  /** Confirmed members of a list who joined on a day (UTC, ISO 8601); at most a thousand. */
  membersJoinedOn(list: string, day: string): Promise<Member[]>
}

/** Number, kind, all but its personal part, that part, and its mark. */
export function rowOfEntry(n: number, entry: NewEntry, mark: string): [number, string, string, string | null, string] {
  const { personal = null, ...skeleton } = 'personal' in entry ? entry : { ...entry, personal: null }
  return [n, entry.kind, JSON.stringify(skeleton), personal === null ? null : JSON.stringify(personal), mark]
}

/** An entry as it is stored, with its mark. */
export const entryOf = (row: Row) => {
  const skeleton = parsed<NewEntry>(row.body)
  const isErased = 'commitment' in skeleton
  const personal = row.personal !== null ? { personal: parsed<unknown>(row.personal) } : isErased && { personal: null }
  return { entry: { n: Number(row.n), ...skeleton, ...personal } as Entry, mark: String(row.mark) }
}

export const peopleTables: SubjectTables<PeopleQueries> = {
  migrations,
  gather: (queries, ask) => gatherPeople(queries, ask),
  queries(database) {
    const statements = peopleStatements(database)
    return {
      // A file answers at once.
      async readAhead() {},
      async newestEntry() {
        return newestOf(await statements.newestEntry.get())
      },
      async append(n, entry, mark) {
        await statements.append.run(...rowOfEntry(n, entry, mark))
      },
      async entriesAfter(n, limit) {
        return (await statements.entriesAfter.all(n, limit)).map(entryOf)
      },
      async entriesTextAfter(n, limit) {
        const row = await statements.entriesTextAfter.get(n, limit)
        return row === undefined || row.n === null ? null : { n: Number(row.n), text: String(row.text) }
      },
      async markAt(n) {
        return ((await statements.markAt.get(n))?.mark as string | undefined) ?? null
      },
      async newestAndMember(list, compared) {
        const row = await statements.newestAndMember.get(list, compared)
        return { newest: newestOf(row), member: typeof row?.member === 'string' ? memberOf(row.member) : null }
      },
      async member(id) {
        return memberIn(await statements.member.get(id))
      },
      async memberWithAddress(list, compared) {
        return memberIn(await statements.memberWithAddress.get(list, compared))
      },
      async keepMember(member) {
        const { id, list, email, status, joinedAt } = member
        await statements.keepMember.run(id, list, email.compared, status, joinedAt, memberText(member), list)
      },
      async updateMember(member) {
        await statements.updateMember.run(member.status, memberText(member), member.id)
      },
      async dropMember(id) {
        await statements.dropMember.run(id)
      },
      async keepFirstAnswer(retryKey, { n, at, verdict, isMailHeld }) {
        await statements.keepFirstAnswer.run(n, retryKey, at, verdict, isMailHeld ? 1 : 0)
      },
      async firstAnswersAfter(n, from) {
        return (await statements.firstAnswersAfter.all(n, from)).map((row) => ({
          key: String(row.key),
          answer: {
            n: Number(row.n),
            at: Number(row.at),
            verdict: row.verdict as SignUpVerdict,
            isMailHeld: Number(row.held) === 1,
          },
        }))
      },
      async forgetAnswers(before, outcomesBefore) {
        await statements.forgetFirstAnswers.run(before)
        await statements.forgetOutcomes.run(outcomesBefore)
      },
      async bounces() {
        return (await statements.bounces.all()).map((row) => entryOf(row).entry)
      },
      async corrections() {
        return (await statements.corrections.all()).map((row) => entryOf(row).entry)
      },
      async blankEntry(n, entry) {
        const { personal: _, ...skeleton } = entry as NewEntry & { personal?: unknown }
        await statements.blankEntry.run(JSON.stringify(skeleton), n)
      },
      async isErased(hash) {
        return (await statements.isErased.get(hash)) !== undefined
      },
      async keepErased(hash) {
        await statements.keepErased.run(hash)
      },
      async dropOutcomesWith(text) {
        // JSON as stored. Wildcards of LIKE match themselves, and a few rows too many.
        const pattern = `%${JSON.stringify(text.toLowerCase()).slice(1, -1).replaceAll('%', '_')}%`
        return (await statements.dropOutcomesWith.run(pattern)).changes
      },
      async outcome(id) {
        const row = await statements.outcome.get(id)
        return row === undefined ? null : parsed<CommandOutcome>(row.outcome)
      },
      async keepOutcome(id, at, outcome) {
        await statements.keepOutcome.run(id, JSON.stringify(outcome), at)
      },
      async membersAfterRank(list, rank, limit) {
        const rows = await statements.membersAfterRank.all(list, rank, limit)
        return rows.map((row) => ({ rank: Number(row.rank), member: memberOf(row.body) }))
      },
      async membersAsTheyLie(list, rank, limit) {
        const rows = await statements.membersAfterRank.all(list, rank, limit)
        return rows.map((row) => ({ rank: Number(row.rank), member: uncheckedMember(row.body) }))
      },
      async memberRowsAfter(id, limit) {
        const rows = await statements.memberRowsAfter.all(id, limit)
        return rows.map((row) => ({ id: row.id as MemberId, isWhole: isAsWritten(String(row.id), row.body) }))
      },
      async countMembers() {
        return Number((await statements.countMembers.get())?.count ?? 0)
      },
      async listsWithWaiting() {
        return (await statements.listsWithWaiting.all()).map((row) => row.list as ListId)
      },
      async waitingSince(list, before) {
        const rows = await statements.waitingSince.all(list, new Date(before).toISOString())
        return rows.map((row) => row.id as MemberId)
      },
      async membersWithStatus(list, status) {
        return (await statements.membersWithStatus.all(list, status)).map((row) => memberOf(row.body))
      },
      async rankOf(member) {
        const row = await statements.rankOf.get(member)
        return row === undefined ? null : Number(row.rank)
      },
      async highestRank(list) {
        return Number((await statements.highestRank.get(list))?.rank ?? 0)
      },
      async membersJoinedOn(list, day) {
        return (await statements.membersJoinedIn.all(list, day, endOf(day))).map((row) => memberOf(row.body))
      },
    }
  },
}

const memberIn = (row: Row | undefined): Member | null => (row === undefined ? null : memberOf(row.body))

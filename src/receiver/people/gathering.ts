import type { Member } from '#core/list'
import type { MemberId } from '#core/ids'
import { type Gather, type Newest } from '../store'
import { memberOf, memberText } from './member-row'
import { type FirstAnswer, type PeopleQueries, type ReadAhead, rowOfEntry } from './tables'

/** Whom a sign-up is about: looked up for all that share a commit in one query. */
export interface AboutSomebody {
  list: string
  compared: string
}
const isAboutSomebody = (about: unknown): about is AboutSomebody =>
  typeof about === 'object' && about !== null && 'compared' in about
const addressKey = ({ list, compared }: AboutSomebody) => `${list}\n${compared}`

const JOURNAL = `INSERT INTO journal (n, kind, body, personal, mark)
  SELECT * FROM unnest(?::bigint[], ?::text[], ?::text[], ?::text[], ?::text[])`
/** Numbers on a list go on from its highest, in the order in which they came; who is there keeps theirs. */
const MEMBERS = `INSERT INTO members (id, list, compared, status, joined_at, body, rank)
  SELECT u.id, u.list, u.compared, u.status, u.joined_at, u.body,
    (SELECT coalesce(max(m.rank), 0) FROM members m WHERE m.list = u.list)
      + row_number() OVER (PARTITION BY u.list, there.id IS NULL ORDER BY u.at)
  FROM unnest(?::text[], ?::text[], ?::text[], ?::text[], ?::text[], ?::text[]) WITH ORDINALITY
    AS u (id, list, compared, status, joined_at, body, at)
  LEFT JOIN members there ON there.id = u.id
  ORDER BY u.at
  ON CONFLICT (id) DO UPDATE SET compared = excluded.compared, status = excluded.status,
    joined_at = excluded.joined_at, body = excluded.body`
const ANSWERS = `INSERT INTO first_answers (n, key, at, verdict, held)
  SELECT * FROM unnest(?::bigint[], ?::text[], ?::bigint[], ?::text[], ?::int[])`
const BY_ADDRESS = `SELECT body FROM members WHERE (list, compared) IN (SELECT * FROM unnest(?::text[], ?::text[]))`
const ERASED = `SELECT hash FROM erased WHERE hash = ANY(?::text[])`
const BY_ID = `SELECT body FROM members WHERE id = ANY(?::text[])`

/** Of all that shares a commit, entries, members and first answers are each written by one statement. */
export const gatherPeople: Gather<PeopleQueries> = (base, ask) => {
  let newest: Newest | null = null
  let entries: ReturnType<typeof rowOfEntry>[] = []
  /** Who is to be written, by id. */
  let members = new Map<string, Member>()
  let answers: [key: string, answer: FirstAnswer][] = []
  /** Who is known in this transaction, by id and by list and address; null for nobody. */
  let byId = new Map<string, Member | null>()
  let byAddress = new Map<string, Member | null>()
  /** Whether an address was erased, by its hash, as far as it was asked. */
  let erased = new Map<string, boolean>()

  const clear = () => {
    newest = null
    entries = []
    members = new Map()
    answers = []
    byId = new Map()
    byAddress = new Map()
    erased = new Map()
  }
  const keyOf = ({ list, email }: Member) => addressKey({ list, compared: email.compared })
  function know(member: Member): void {
    const before = byId.get(member.id) ?? null
    if (before !== null) byAddress.set(keyOf(before), null)
    byId.set(member.id, member)
    byAddress.set(keyOf(member), member)
  }

  async function flush(): Promise<void> {
    if (entries.length > 0) {
      const rows = entries
      entries = []
      await ask(
        JOURNAL,
        [0, 1, 2, 3, 4].map((column) => rows.map((row) => row[column])),
      )
    }
    if (members.size > 0) {
      const all = [...members.values()]
      members = new Map()
      await ask(MEMBERS, [
        all.map(({ id }) => id),
        all.map(({ list }) => list),
        all.map(({ email }) => email.compared),
        all.map(({ status }) => status),
        all.map(({ joinedAt }) => joinedAt),
        all.map(memberText),
      ])
    }
    if (answers.length > 0) {
      const all = answers
      answers = []
      await ask(ANSWERS, [
        all.map(([, { n }]) => n),
        all.map(([key]) => key),
        all.map(([, { at }]) => at),
        all.map(([, { verdict }]) => verdict),
        all.map(([, { isMailHeld }]) => (isMailHeld ? 1 : 0)),
      ])
    }
  }

  /** Takes in what the store says of somebody, where it is not older than what is known. */
  function learn(member: Member | null): Member | null {
    if (member === null) return null
    if (!byId.has(member.id)) know(member)
    return byId.get(member.id)!
  }
  const newestEntry = async () => (newest ??= await base.newestEntry())
  async function member(id: MemberId): Promise<Member | null> {
    if (!byId.has(id)) {
      const stored = learn(await base.member(id))
      if (stored === null) byId.set(id, null)
    }
    return byId.get(id)!
  }
  async function memberWithAddress(list: string, compared: string): Promise<Member | null> {
    const key = addressKey({ list, compared })
    if (!byAddress.has(key)) {
      learn(await base.memberWithAddress(list, compared))
      // One who has another address by now was told as known by it.
      if (!byAddress.has(key)) byAddress.set(key, null)
    }
    return byAddress.get(key)!
  }
  async function keepMember(one: Member): Promise<void> {
    const waiting = members.get(one.id)
    // Rows are written in the order in which they came, so one that takes an address stands after the one that gives it up.
    if (waiting !== undefined && keyOf(waiting) !== keyOf(one)) await flush()
    members.set(one.id, one)
    know(one)
  }
  async function readAhead({ addresses = [], members: ids = [], hashes = [] }: ReadAhead): Promise<void> {
    const asked = addresses.filter((one) => !byAddress.has(addressKey(one)))
    const rows: Record<string, unknown>[] = []
    if (asked.length > 0)
      rows.push(...(await ask(BY_ADDRESS, [asked.map(({ list }) => list), asked.map(({ compared }) => compared)])))
    const unknown = ids.filter((id) => !byId.has(id))
    if (unknown.length > 0) rows.push(...(await ask(BY_ID, [unknown])))
    for (const row of rows) learn(memberOf(row.body))
    for (const one of asked) if (!byAddress.has(addressKey(one))) byAddress.set(addressKey(one), null)
    for (const id of unknown) if (!byId.has(id)) byId.set(id, null)
    const among = hashes.filter((hash) => !erased.has(hash))
    if (among.length === 0) return
    for (const hash of among) erased.set(hash, false)
    for (const { hash } of await ask(ERASED, [among])) erased.set(String(hash), true)
  }

  const { outcome, keepOutcome } = base
  return {
    queries: {
      // Of tables of their own, where nothing is kept back.
      ...{ outcome, keepOutcome },
      isErased: async (hash) => erased.get(hash) ?? base.isErased(hash),
      async keepErased(hash) {
        await base.keepErased(hash)
        erased.set(hash, true)
      },
      ...{ newestEntry, member, memberWithAddress, keepMember, readAhead },
      updateMember: keepMember,
      newestAndMember: async (list, compared) => ({
        newest: await newestEntry(),
        member: compared === null ? null : await memberWithAddress(list, compared),
      }),
      async append(n, entry, mark) {
        entries.push(rowOfEntry(n, entry, mark))
        newest = { n, mark }
      },
      async dropMember(id) {
        await flush()
        await base.dropMember(id)
        const before = byId.get(id) ?? null
        if (before !== null) byAddress.set(keyOf(before), null)
        byId.set(id, null)
      },
      async keepFirstAnswer(key, answer) {
        answers.push([key, answer])
      },
    },
    async begin(abouts) {
      clear()
      await readAhead({ addresses: abouts.filter(isAboutSomebody) })
    },
    flush,
    clear,
  }
}

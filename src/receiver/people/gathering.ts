import type { Member } from '#core/list'
import type { Gather, Newest } from '../store'
import { type FirstAnswer, type PeopleQueries, rowOfEntry } from './tables'

/** Whom a sign-up is about: looked up for all that share a commit in one query. */
export interface AboutSomebody {
  list: string
  compared: string
}
const isAboutSomebody = (about: unknown): about is AboutSomebody =>
  typeof about === 'object' && about !== null && 'compared' in about

const JOURNAL = `INSERT INTO journal (n, kind, body, personal, mark)
  SELECT * FROM unnest(?::bigint[], ?::text[], ?::text[], ?::text[], ?::text[])`
/** Numbers on a list go on from its highest, in the order in which they came. */
const MEMBERS = `INSERT INTO members (id, list, compared, status, joined_at, body, rank)
  SELECT u.id, u.list, u.compared, u.status, u.joined_at, u.body,
    (SELECT coalesce(max(m.rank), 0) FROM members m WHERE m.list = u.list) + row_number() OVER (PARTITION BY u.list ORDER BY u.at)
  FROM unnest(?::text[], ?::text[], ?::text[], ?::text[], ?::text[], ?::text[]) WITH ORDINALITY
    AS u (id, list, compared, status, joined_at, body, at)
  ON CONFLICT (id) DO UPDATE SET compared = excluded.compared, status = excluded.status,
    joined_at = excluded.joined_at, body = excluded.body`
const ANSWERS = `INSERT INTO first_answers (n, key, at, verdict, held)
  SELECT * FROM unnest(?::bigint[], ?::text[], ?::bigint[], ?::text[], ?::int[])`
const KNOWN = `SELECT list, compared, body FROM members
  WHERE (list, compared) IN (SELECT * FROM unnest(?::text[], ?::text[]))`

/** Sign-ups that share a commit: their entries, members and first answers are each written by one statement. */
export const gatherPeople: Gather<PeopleQueries> = (base, ask) => {
  let newest: Newest | null = null
  let entries: ReturnType<typeof rowOfEntry>[] = []
  let members = new Map<string, Member>()
  let answers: [key: string, answer: FirstAnswer][] = []
  /** By list and address, as far as it is known in this transaction; null for nobody. */
  let known = new Map<string, Member | null>()
  const keyOf = (list: string, compared: string) => `${list}\n${compared}`

  const clear = () => {
    newest = null
    entries = []
    members = new Map()
    answers = []
    known = new Map()
  }
  const forget = (id: string) => {
    for (const [key, member] of known) if (member?.id === id) known.delete(key)
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
        all.map((member) => JSON.stringify(member)),
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

  const newestEntry = async () => (newest ??= await base.newestEntry())
  async function memberWithAddress(list: string, compared: string): Promise<Member | null> {
    const key = keyOf(list, compared)
    const member = known.get(key)
    if (member !== undefined) return member
    await flush()
    const found = await base.memberWithAddress(list, compared)
    known.set(key, found)
    return found
  }

  return {
    queries: {
      newestEntry,
      memberWithAddress,
      newestAndMember: async (list, compared) => ({
        newest: await newestEntry(),
        member: compared === null ? null : await memberWithAddress(list, compared),
      }),
      async append(n, entry, mark) {
        entries.push(rowOfEntry(n, entry, mark))
        newest = { n, mark }
      },
      async keepMember(member) {
        // A row cannot be written twice by one statement.
        if (members.has(member.id)) await flush()
        members.set(member.id, member)
        forget(member.id)
        known.set(keyOf(member.list, member.email.compared), member)
      },
      async updateMember(member) {
        await flush()
        await base.updateMember(member)
        forget(member.id)
        known.set(keyOf(member.list, member.email.compared), member)
      },
      async dropMember(id) {
        await flush()
        await base.dropMember(id)
        forget(id)
      },
      async keepFirstAnswer(key, answer) {
        answers.push([key, answer])
      },
    },
    async begin(abouts) {
      clear()
      const about = abouts.filter(isAboutSomebody)
      if (about.length === 0) return
      for (const { list, compared } of about) known.set(keyOf(list, compared), null)
      const rows = await ask(KNOWN, [about.map(({ list }) => list), about.map(({ compared }) => compared)])
      for (const row of rows)
        known.set(keyOf(String(row.list), String(row.compared)), JSON.parse(String(row.body)) as Member)
    },
    flush,
    clear,
  }
}

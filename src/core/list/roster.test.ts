import fc from 'fast-check'
import type { BatchId, FormId, ListId, MemberId } from '#core/ids'
import type { Entry } from '#core/journal'
import {
  affectedMembers,
  applyToMember,
  matches,
  type Member,
  type MemberStatus,
  memberStatuses,
  Roster,
  type Sort,
} from '.'

const NOW = Date.parse('2026-03-10')
const lists = ['one', 'two'] as ListId[]
const people = Array.from({ length: 12 }, (_, number) => ({
  // A member stays on its list, with an address of its own.
  member: `member${number}` as MemberId,
  list: lists[number % 2]!,
  typed: `${['Ada', 'bea', 'Cem', 'dot'][number % 4]}.${number}@${number < 6 ? 'm' : 'n'}.example`,
}))
const anyEntry = fc
  .record({
    person: fc.constantFrom(...people),
    name: fc.constantFrom('', 'Ångström', 'constructor', 'Wren'),
    kind: fc.constantFrom(
      ...['arrival', 'arrival', 'arrival', 'bot', 'known', 'added', 'edited', 'removed', 'left', 'odd'],
      ...['written', 'tagged', 'untagged', 'set', 'withdrawn', 'erased'],
    ),
    others: fc.subarray(people.map(({ member }) => member)),
    form: fc.constantFrom('letter', 'alerts'),
    day: fc.integer({ min: 1, max: 9 }),
  })
  .map(({ person: { member, list, typed }, name, kind, form, day, others }) => {
    const shared = { at: `2026-03-0${day}T00:00:00.000Z`, list, member }
    const told = { email: { typed, compared: typed.toLowerCase() }, values: name === '' ? {} : { 'first-name': name } }
    const arrival = {
      ...shared,
      personal: { ...told, page: '' },
      kind: 'arrival',
      id: 'x',
      spot: 'spot',
      form,
      version: 1,
    }
    const byOwner = { ...shared, command: 'x' }
    const ofMany = { ...shared, member: null, batch: `batch${day}`, id: 'x' }
    // Those of the list alone; everybody of all lists is erased.
    const mates = others.filter((one) => people.find(({ member }) => member === one)!.list === list)
    const changed = (change: unknown) => ({
      ...ofMany,
      kind: 'members-changed',
      members: mates,
      personal: { change },
    })
    return {
      arrival: { ...arrival, verdict: 'joined' },
      known: { ...arrival, verdict: 'already-on-list' },
      bot: { ...arrival, verdict: 'bot', member: null },
      added: { ...byOwner, personal: told, kind: 'member-added' },
      edited: { ...byOwner, personal: told, kind: 'member-edited' },
      removed: { ...byOwner, kind: 'member-removed' },
      left: { ...byOwner, kind: 'member-restored', status: 'left' },
      odd: { ...byOwner, kind: 'member-waved-at' },
      written: {
        ...ofMany,
        member,
        kind: 'member-written',
        status: 'confirmed',
        joinedAt: shared.at,
        personal: { ...told, tags: ['brought'] },
      },
      tagged: changed({ kind: 'tag', tag: name || 'school' }),
      untagged: changed({ kind: 'untag', tag: name || 'school' }),
      set: changed({ kind: 'set', column: 'first-name', value: name }),
      withdrawn: changed({ kind: 'withdraw' }),
      erased: { ...ofMany, kind: 'members-erased', members: others, entries: [], hashes: [`hash${day}`] },
    }[kind]
  })
const anyJournal = fc
  .array(anyEntry, { maxLength: 40 })
  .map((all) => all.map((entry, at) => ({ ...entry, n: at + 1 }) as unknown as Entry))

const compareTexts = (one: string, other: string) => (one < other ? -1 : one > other ? 1 : 0)

/** The same without any memory: looks at everything each time. */
function plainly(entries: readonly Entry[], list: ListId): Member[] {
  const members = new Map<MemberId, Member>()
  for (const entry of entries) {
    if ((entry.kind as string) === 'member-waved-at') continue
    for (const id of affectedMembers(entry)) {
      const after = applyToMember(members.get(id) ?? null, entry)
      if (after === null) members.delete(id)
      else members.set(id, after)
    }
  }
  return [...members.values()]
    .filter((member) => member.list === list)
    .sort(
      (one, other) =>
        compareTexts(other.joinedAt, one.joinedAt) ||
        compareTexts(other.email.compared, one.email.compared) ||
        compareTexts(other.id, one.id),
    )
}

const isTheirEnd = (entry: Entry) =>
  entry.kind === 'members-erased' || (entry.kind === 'members-changed' && entry.personal?.change.kind === 'withdraw')

test('property: however a journal comes in, finding, counting and looking back is the same as reading all of it', () => {
  fc.assert(
    fc.property(
      anyJournal,
      fc.array(fc.tuple(fc.nat(40), fc.nat(40)), { maxLength: 6 }),
      fc.constantFrom(...lists),
      fc.option(fc.constantFrom<MemberStatus>('confirmed', 'removed', 'left'), { nil: undefined }),
      fc.option(fc.constantFrom('letter', 'alerts'), { nil: undefined }),
      fc.constantFrom('', 'm.ex', 'WREN', 'ång', 'ada', 'nobody', 'elsewhere'),
      fc.constantFrom<string[]>([], ['spot']),
      (journal, pulls, list, status, form, search, spots: string[]) => {
        const roster = new Roster()
        for (const [back, length] of pulls) {
          const from = Math.max(0, roster.cursor - back)
          roster.take(journal.slice(from, from + length))
          roster.find({ list }, NOW)
        }
        roster.take(journal)
        const everybody = plainly(journal, list)
        const wanted = {
          ...{ list, search, spots },
          ...(status !== undefined && { status }),
          ...(form !== undefined && { form: form as FormId }),
        }
        const expected = everybody.filter(
          (member) =>
            (status === undefined || member.status === status) &&
            (form === undefined || member.from?.form === form) &&
            ((search !== '' && member.from !== null && spots.includes(member.from.spot)) ||
              [
                member.email.typed,
                ...Object.values(member.values),
                member.from?.page ?? '',
                member.from?.cameFrom?.source ?? '',
              ].some((text) => text.toLowerCase().includes(search.toLowerCase()))),
        )
        expect(roster.find(wanted, NOW)).toEqual({ members: expected, total: expected.length })
        expect(roster.find({ ...wanted, sort: { by: 'since', isDescending: false } }, NOW).members).toEqual(
          [...expected].reverse(),
        )
        expect(roster.find({ ...wanted, offset: 1, limit: 2 }, NOW)).toEqual({
          members: expected.slice(1, 3),
          total: expected.length,
        })
        for (const one of memberStatuses)
          expect(roster.counts(list)[one]).toBe(everybody.filter((member) => member.status === one).length)
        for (const { id } of everybody) {
          const about = journal.filter(
            (entry) =>
              (entry.member === id || affectedMembers(entry).includes(id)) &&
              (entry.kind as string) !== 'member-waved-at',
          )
          const goneAt = about.findLastIndex(isTheirEnd)
          const joined = about.findIndex(
            (entry, at) => at > goneAt && affectedMembers(entry).length > 0 && applyToMember(null, entry) !== null,
          )
          expect(roster.entriesAbout(list, id)).toEqual(about.slice(joined).map(({ n }) => n))
        }
      },
    ),
  )
})

const anyCondition = fc.oneof(
  fc.record({ about: fc.constant('status' as const), is: fc.boolean(), status: fc.constantFrom(...memberStatuses) }),
  fc.record({
    about: fc.constant('tag' as const),
    is: fc.boolean(),
    tag: fc.constantFrom('brought', 'school', 'Wren'),
  }),
  fc.record({ about: fc.constant('form' as const), is: fc.boolean(), form: fc.constantFrom('letter' as FormId) }),
  fc.record({ about: fc.constant('added' as const), is: fc.boolean() }),
  fc.record({ about: fc.constant('import' as const), is: fc.boolean(), batch: fc.constant('batch3' as BatchId) }),
  fc.record({ about: fc.constant('joined-within' as const), is: fc.boolean(), days: fc.integer({ min: 1, max: 9 }) }),
  fc.record({
    about: fc.constantFrom('joined-before' as const, 'joined-from' as const),
    day: fc.constant('2026-03-05'),
  }),
  fc.record({
    about: fc.constant('column' as const),
    column: fc.constantFrom('email' as const, 'first-name', 'no-such'),
    how: fc.constantFrom('is', 'is-not', 'has', 'has-not', 'empty', 'filled'),
    text: fc.constantFrom('wren', 'å', ''),
  }),
)
const anyFilter = fc.record({
  join: fc.constantFrom('and' as const, 'or' as const),
  conditions: fc.array(anyCondition, { maxLength: 4 }),
})
const anySort = fc.record({
  by: fc.constantFrom<Sort['by']>('since', 'email', 'status', 'tags', 'spot', 'page', 'column first-name'),
  isDescending: fc.boolean(),
})

test('property: a filter finds whom its conditions hold of, sorted by anything nobody is lost', () => {
  fc.assert(
    fc.property(
      anyJournal,
      anyFilter,
      anySort,
      fc.subarray(people.map(({ member }) => member)),
      (journal, filter, sort, some) => {
        const roster = new Roster()
        roster.take(journal)
        for (const list of lists) {
          const everybody = plainly(journal, list)
          const expected = everybody.filter((member) => matches(filter, member, NOW))
          const { members, total } = roster.find({ list, filter, sort }, NOW)
          const ids = (found: readonly Member[]) => found.map(({ id }) => id).sort()
          expect(ids(members)).toEqual(ids(expected))
          expect(total).toBe(expected.length)
          expect(
            roster.find({ list, filter, sort: { ...sort, isDescending: !sort.isDescending } }, NOW).members,
          ).toEqual(members.toReversed())
          expect(ids(roster.find({ list, only: some }, NOW).members)).toEqual(
            ids(everybody.filter(({ id }) => some.includes(id))),
          )
          expect(ids(roster.find({ list, except: some }, NOW).members)).toEqual(
            ids(everybody.filter(({ id }) => !some.includes(id))),
          )
          // One who stands in no row is asked the same.
          const instead = new Map(everybody.map((member) => [member.id, member]))
          expect(ids(roster.find({ list, filter, sort }, NOW, instead).members)).toEqual(ids(expected))
          for (const { tag, count } of roster.tagCounts(list))
            expect(everybody.filter(({ tags = [] }) => tags.includes(tag))).toHaveLength(count)
        }
      },
    ),
  )
})

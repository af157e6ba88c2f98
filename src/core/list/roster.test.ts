import fc from 'fast-check'
import type { FormId, ListId, MemberId } from '#core/ids'
import type { Entry } from '#core/journal'
import { affectedMember, applyToMember, type Member, type MemberStatus, memberStatuses, Roster } from '.'

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
    kind: fc.constantFrom('arrival', 'arrival', 'arrival', 'bot', 'known', 'added', 'edited', 'removed', 'left', 'odd'),
    form: fc.constantFrom('letter', 'alerts'),
    day: fc.integer({ min: 1, max: 9 }),
  })
  .map(({ person: { member, list, typed }, name, kind, form, day }) => {
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
    return {
      arrival: { ...arrival, verdict: 'joined' },
      known: { ...arrival, verdict: 'already-on-list' },
      bot: { ...arrival, verdict: 'bot', member: null },
      added: { ...byOwner, personal: told, kind: 'member-added' },
      edited: { ...byOwner, personal: told, kind: 'member-edited' },
      removed: { ...byOwner, kind: 'member-removed' },
      left: { ...byOwner, kind: 'member-restored', status: 'left' },
      odd: { ...byOwner, kind: 'member-waved-at' },
    }[kind]
  })
const anyJournal = fc
  .array(anyEntry, { maxLength: 40 })
  .map((all) => all.map((entry, at) => ({ ...entry, n: at + 1 }) as unknown as Entry))

/** The same without any memory: looks at everything each time. */
function plainly(entries: readonly Entry[], list: ListId): Member[] {
  const members = new Map<MemberId, Member>()
  for (const entry of entries) {
    if ((entry.kind as string) === 'member-waved-at') continue
    const id = affectedMember(entry)
    const after = id === null ? null : applyToMember(members.get(id) ?? null, entry)
    if (after !== null) members.set(after.id, after)
  }
  return [...members.values()]
    .filter((member) => member.list === list)
    .sort((one, other) =>
      one.joinedAt === other.joinedAt ? (one.id < other.id ? 1 : -1) : one.joinedAt < other.joinedAt ? 1 : -1,
    )
}

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
          roster.find({ list })
        }
        roster.take(journal)
        const everybody = plainly(journal, list)
        const wanted = { list, status, form: form as FormId | undefined, search, spots }
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
        expect(roster.find(wanted)).toEqual({ members: expected, total: expected.length })
        expect(roster.find({ ...wanted, isOldestFirst: true }).members).toEqual([...expected].reverse())
        expect(roster.find({ ...wanted, offset: 1, limit: 2 })).toEqual({
          members: expected.slice(1, 3),
          total: expected.length,
        })
        for (const one of memberStatuses)
          expect(roster.counts(list)[one]).toBe(everybody.filter((member) => member.status === one).length)
        for (const { id } of everybody) {
          const about = journal.filter((entry) => entry.member === id && (entry.kind as string) !== 'member-waved-at')
          const joined = about.findIndex(
            (entry) => affectedMember(entry) !== null && applyToMember(null, entry) !== null,
          )
          expect(roster.entriesAbout(list, id)).toEqual(about.slice(joined).map(({ n }) => n))
        }
      },
    ),
  )
})

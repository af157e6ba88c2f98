import fc from 'fast-check'
import type { FormId, ListId, MemberId } from '#core/ids'
import { type Member, type MemberStatus, memberStatuses, Roster } from '.'

const lists = ['one', 'two'] as ListId[]
const anyMember = fc
  .record({
    id: fc.nat(12).map((number) => `member${number}` as MemberId),
    typed: fc.constantFrom('Ada@m.example', 'bea@m.example', 'Cem@n.example', 'dot@n.example'),
    name: fc.constantFrom('', 'Ångström', 'constructor', 'Wren'),
    status: fc.constantFrom(...memberStatuses),
    day: fc.integer({ min: 1, max: 9 }),
    revision: fc.integer({ min: 1, max: 40 }),
    form: fc.constantFrom(null, 'letter', 'alerts'),
  })
  .map(({ id, typed, name, status, day, revision, form }): Member => ({
    // A member stays on its list.
    list: lists[Number(id.slice('member'.length)) % 2]!,
    id,
    email: { typed, compared: typed.toLowerCase() },
    values: name === '' ? {} : { 'first-name': name },
    status,
    joinedAt: `2026-03-0${day}T00:00:00.000Z`,
    from: form === null ? null : { form: form as FormId, version: 1, spot: 'spot' as never, page: '' },
    revision,
  }))

/** The same without any memory: looks at everybody each time. */
function plainly(
  members: readonly Member[],
  list: ListId,
  status: MemberStatus | undefined,
  form: string | undefined,
  search: string,
): MemberId[] {
  const newest = new Map<MemberId, Member>()
  for (const member of members)
    if ((newest.get(member.id)?.revision ?? 0) <= member.revision) newest.set(member.id, member)
  return [...newest.values()]
    .filter(
      (member) =>
        member.list === list &&
        (status === undefined || member.status === status) &&
        (form === undefined || member.from?.form === form),
    )
    .filter(({ email, values }) =>
      [email.typed, ...Object.values(values)].some((text) => text.toLowerCase().includes(search.toLowerCase())),
    )
    .sort((one, other) =>
      one.joinedAt === other.joinedAt ? (one.id < other.id ? 1 : -1) : one.joinedAt < other.joinedAt ? 1 : -1,
    )
    .map(({ id }) => id)
}

test('property: whatever comes in, and in whatever order, finding is the same as looking at everybody', () => {
  fc.assert(
    fc.property(
      fc.array(fc.array(anyMember, { maxLength: 8 }), { maxLength: 6 }),
      fc.constantFrom(...lists),
      fc.option(fc.constantFrom(...memberStatuses), { nil: undefined }),
      fc.option(fc.constantFrom('letter', 'alerts'), { nil: undefined }),
      fc.constantFrom('', 'm.ex', 'WREN', 'ång', 'ada@', 'nobody'),
      (batches, list, status, form, search) => {
        const roster = new Roster()
        for (const batch of batches) {
          roster.take(batch)
          roster.find({ list })
        }
        const wanted = { list, status, form: form as FormId | undefined, search }
        const found = roster.find(wanted).map(({ id }) => id)
        expect(found).toEqual(plainly(batches.flat(), list, status, form, search))
        expect(roster.find({ ...wanted, isOldestFirst: true }).map(({ id }) => id)).toEqual([...found].reverse())
        expect(roster.newest).toBe(Math.max(0, ...batches.flat().map(({ revision }) => revision)))
      },
    ),
  )
})

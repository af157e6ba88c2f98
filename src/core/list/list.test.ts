import fc from 'fast-check'
import type { CommandId, ListId, MemberId } from '#core/ids'
import type { Command, Entry, Verdict } from '#core/journal'
import { affectedMembers, applyToMember, decide, type Member, type CommandContext } from '.'

const LIST = 'somelist' as ListId

/** A small world: any history of a handful of people, made by deciding commands one after the other. */
const history = fc
  .array(
    fc.record({
      kind: fc.constantFrom('add-member', 'edit-member', 'remove-member', 'restore-member', 'note-member'),
      who: fc.nat(3),
      address: fc.nat(3),
      isStale: fc.boolean(),
    }),
    {
      maxLength: 40,
    },
  )
  .map((wishes) => {
    const state = new Map<string, Member>()
    const entries: Entry[] = []
    for (const [at, { kind, who, address, isStale }] of wishes.entries()) {
      const id = `member${who}` as MemberId
      const member = state.get(id) ?? null
      const command = {
        id: `command${at}` as CommandId,
        kind,
        list: LIST,
        member: id,
        email: `P${address}@mail.example`,
        values: {},
        ...(address > 1 && { tags: [`tag ${address}`] }),
        text: 'a note',
        status: 'confirmed',
        revision: (member?.revision ?? 1) - (isStale ? 1 : 0),
      } as Command
      const decision = decide(command, peopleOf(state, id), '2026-01-01T00:00:00.000Z')
      if (!decision.ok) continue
      const entry = { n: entries.length + 1, ...decision.entry } as Entry
      entries.push(entry)
      state.set(id, applyToMember(member, entry)!)
    }
    return { entries, state }
  })

function peopleOf(state: Map<string, Member>, id: string): CommandContext {
  return {
    isList: true,
    member: state.get(id) ?? null,
    withAddress: (compared) => [...state.values()].find((one) => one.email.compared === compared) ?? null,
  }
}

function fold(entries: readonly Entry[], from = new Map<string, Member>()): Map<string, Member> {
  const state = new Map(from)
  for (const entry of entries) {
    for (const id of affectedMembers(entry)) {
      const member = applyToMember(state.get(id) ?? null, entry)
      if (member === null) state.delete(id)
      else state.set(id, member)
    }
  }
  return state
}

test('property: the fold of the journal is the state it was made from, in however many pieces and however often it is applied', () => {
  fc.assert(
    fc.property(history, fc.nat(), ({ entries, state }, cut) => {
      const at = entries.length === 0 ? 0 : cut % entries.length
      expect(fold(entries)).toEqual(state)
      expect(fold(entries.slice(at), fold(entries.slice(0, at)))).toEqual(state)
      expect(fold(entries, fold(entries))).toEqual(state)
    }),
  )
})

test('who waits and signs up again is confirmed with what was typed last; who is confirmed is changed by no stranger', () => {
  const arrival = (n: number, verdict: Verdict, name: string) =>
    ({
      ...{ n, kind: 'arrival', verdict, list: LIST, member: 'member0', spot: 'spot', form: 'form', version: n },
      ...{ id: `arrival${n}`, at: `2026-01-01T00:00:0${n}.000Z` },
      personal: {
        email: { typed: 'A@mail.example', compared: 'a@mail.example' },
        ...{ values: { 'first-name': name }, tags: [name], page: '', passed: { wish: name } },
      },
    }) as unknown as Entry
  const confirmed = { n: 3, kind: 'member-confirmed', list: LIST, member: 'member0' } as unknown as Entry
  const [first, again] = [arrival(1, 'confirm-first', 'Adda'), arrival(2, 'already-waiting', 'Ada')]
  const state = fold([first, again, confirmed, arrival(4, 'already-on-list', 'Mallory')])
  expect(state.get('member0')).toMatchObject({
    ...{ status: 'confirmed', values: { 'first-name': 'Ada' }, tags: ['Adda', 'Ada'], passed: { wish: 'Ada' } },
    // The link of the first mail goes on to work, and where they came from stays.
    ...{ joinedAt: '2026-01-01T00:00:01.000Z', from: { version: 1 } },
  })
})

test('property: no two members of a list ever have the same compared address', () => {
  fc.assert(
    fc.property(history, ({ state }) => {
      const addresses = [...state.values()].map(({ email }) => email.compared)
      return new Set(addresses).size === addresses.length
    }),
  )
})

describe('decide', () => {
  const member: Member = {
    id: 'ada1' as MemberId,
    list: LIST,
    email: { typed: 'Ada@m.example', compared: 'ada@m.example' },
    values: {},
    status: 'confirmed',
    joinedAt: '',
    from: null,
    revision: 4,
  }
  const bob: Member = {
    ...member,
    id: 'bob1' as MemberId,
    email: { typed: 'bob@m.example', compared: 'bob@m.example' },
  }
  const people = peopleOf(new Map([member, bob].map((one) => [one.id, one])), member.id)
  const command = { id: 'cmd1' as CommandId, list: LIST, member: member.id, revision: 4, values: {} }
  test.each([
    {
      why: 'made on the member as it is',
      given: { ...command, kind: 'edit-member', email: 'ADA@m.example' },
      code: null,
    },
    {
      why: 'a note, whatever was changed meanwhile',
      given: { ...command, kind: 'note-member', revision: undefined, text: 'Rang.' },
      code: null,
    },
    {
      why: 'made on an older revision',
      given: { ...command, kind: 'remove-member', revision: 3 },
      code: 'member-changed',
    },
    {
      why: 'someone else has the address',
      given: { ...command, kind: 'edit-member', email: 'BOB@m.example' },
      code: 'address-taken',
    },
    { why: 'not an address', given: { ...command, kind: 'edit-member', email: 'ada' }, code: 'address-invalid' },
    {
      why: 'of another list',
      given: { ...command, kind: 'remove-member', list: 'other' as ListId },
      code: 'unknown-member',
    },
    {
      why: 'added twice',
      given: { ...command, kind: 'add-member', member: 'new1' as MemberId, email: 'bob@M.example' },
      code: 'address-taken',
    },
  ] as { why: string; given: Command; code: string | null }[])('$why', ({ given, code }) => {
    const decision = decide(given, people, '2026-01-01T00:00:00.000Z')
    expect(decision.ok ? null : decision.problem.code).toBe(code)
  })
})

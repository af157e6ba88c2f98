import fc from 'fast-check'
import type { MemberId } from '#core/ids'
import type { Member } from '#core/list'
import { signUp } from '../../../tests/store-suite'
import { Damaged } from '../store'
import { isAsWritten, memberOf, memberText } from './member-row'

const { email, spot } = signUp('wren@m.example')
const memberWith = (values: Record<string, string>): Member =>
  ({
    ...{
      id: 'wren1234' as MemberId,
      list: 'clearskyalerts' as Member['list'],
      email,
      values,
      tags: [],
      status: 'confirmed',
    },
    ...{ joinedAt: '2026-12-02T10:00:00.000Z', from: { spot: spot.id } as unknown as Member['from'], revision: 3 },
  }) as Member

test('a row is read as it was written, and any change of it is found', () => {
  fc.assert(
    fc.property(
      fc.dictionary(fc.string(), fc.string(), { noNullPrototype: true, maxKeys: 4 }),
      fc.nat(),
      fc.string({ minLength: 1, maxLength: 1 }),
      (values, at, sign) => {
        const member = memberWith(values)
        const text = memberText(member)
        expect(memberOf(text)).toEqual(JSON.parse(JSON.stringify(member)))
        expect(JSON.parse(text)).toMatchObject({ id: member.id })
        // Within what is digested: its own letters are the last 27.
        const place = at % (text.length - 27)
        const changed = `${text.slice(0, place)}${sign}${text.slice(place + 1)}`
        expect(isAsWritten(member.id, changed)).toBe(changed === text)
      },
    ),
  )
})

test('a row in another’s place, one cut off, and what is none are damage', () => {
  const text = memberText(memberWith({}))
  expect(isAsWritten('wren1234', text)).toBe(true)
  expect(isAsWritten('ada12345', text)).toBe(false)
  for (const broken of ['', text.slice(0, 40), '\u0000', text.replace('wren1234', 'ada12345')])
    expect(() => memberOf(broken)).toThrow(Damaged)
})

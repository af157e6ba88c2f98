import { parse } from 'csv-parse/sync'
import fc from 'fast-check'
import ICAL from 'ical.js'
import { type Column, type Member, statusIn } from '#core/list'
import type { SentMessage } from '#core/journal'
import { factColumns, type FactWords, messagesFile, peopleWriter, plainCell, safeCell } from '.'

const columns: Column[] = [
  { key: 'first-name', label: 'First name' },
  { key: 'phone', label: 'Phone' },
]
const all = [...columns, ...factColumns]
const person = (typed: string, values: Record<string, string>, tags?: string[]) =>
  ({
    email: { typed, compared: typed.toLowerCase() },
    values,
    ...(tags && { tags }),
    status: 'confirmed',
    joinedAt: '2026-03-01T10:00:00.000Z',
    from: null,
  }) as Member
const from = { form: 'someform', version: 1, spot: 'somespot', page: '' }
const textOf = (format: Parameters<typeof peopleWriter>[0], members: readonly Member[]) => {
  const { start, piece } = peopleWriter(format, all)
  return start + members.map((member) => piece([member])).join('')
}
/** Nothing that a value of a column cannot hold: see `harmlessText`. */
const anyValue = fc.oneof(
  fc.string({ unit: 'grapheme', maxLength: 60 }).filter((text) => !text.includes('\0')),
  fc.constantFrom(
    '=1+1',
    "'=1",
    "''+x",
    '@x',
    '-2+3|cmd',
    '+49 30 1234-5',
    '\tx',
    'a"b',
    'a,b;c\\d',
    'l1\nl2',
    ' x ',
    '＝1',
  ),
)

test.each([
  // OWASP, "CSV Injection": cells that begin with one of these.
  ['=HYPERLINK("http://evil.example")', '\'=HYPERLINK("http://evil.example")'],
  ['+1+cmd|calc', "'+1+cmd|calc"],
  ['-1+cmd|calc', "'-1+cmd|calc"],
  ['@SUM(1)', "'@SUM(1)"],
  ['\t=1', "'\t=1"],
  ['\r=1', "'\r=1"],
  ['+49 (30) 1234-56', '+49 (30) 1234-56'],
  ['-12.5', '-12.5'],
  ["'tis", "'tis"],
  ["'=1", "''=1"],
  ['', ''],
])('%j is written as %j', (cell, written) => expect(safeCell(cell)).toBe(written))

test('property: no cell that is written begins a formula but a number, and each reads back as it was', () => {
  fc.assert(
    fc.property(anyValue, (cell) => {
      const written = safeCell(cell)
      expect(plainCell(written)).toBe(cell)
      expect(/^[=@\t\r\n]|^[+-](?![\d])/.test(written)).toBe(false)
    }),
  )
})

test('property: a table reads back by another parser (csv-parse) cell by cell, by the rules of RFC 4180', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(anyValue, anyValue), { minLength: 1, maxLength: 8 }), (rows) => {
      const members = rows.map(([name, phone], at) =>
        person(`p${at}@m.example`, { 'first-name': name, phone }, ['a b']),
      )
      const text = textOf('csv', members)
      expect(text.endsWith('\r\n')).toBe(true)
      const [head, ...read] = parse(text, {
        bom: true,
        record_delimiter: '\r\n',
        relax_column_count: false,
      }) as string[][]
      expect(head).toEqual(['Email', 'First name', 'Phone', 'Status', 'Tags', 'Joined at', 'Spot', 'Page', 'Receipt'])
      expect(read.map((cells) => cells.slice(0, 3).map(plainCell))).toEqual(
        rows.map(([name, phone], at) => [`p${at}@m.example`, name, phone]),
      )
    }),
  )
})

test('a table for people has the words of the screen; without them, those that programs know', () => {
  const ada = { ...person('ada@m.example', {}), status: 'confirmed', from } as Member
  const cells = (words?: FactWords) => {
    const { start, piece } = peopleWriter(
      'csv',
      [
        { key: ':status', label: 'Status' },
        { key: ':spot', label: 'Spot' },
      ],
      words,
    )
    return `${start}${piece([ada])}`.split('\r\n')[1]
  }
  const status = { waiting: '', confirmed: 'on the list', left: '', removed: '', bounced: '' }
  expect(cells({ status, spots: { [from.spot]: 'Blog, inline' } })).toBe('ada@m.example,on the list,"Blog, inline"')
  expect(cells()).toBe('ada@m.example,confirmed,')
  // What was saved so is understood when it is brought in again.
  expect(statusIn('on the list')).toBe('confirmed')
})

test('property: contacts read back by another parser (ical.js), in lines of at most 75 octets (RFC 6350, section 3.2)', () => {
  fc.assert(
    fc.property(anyValue, anyValue, (name, phone) => {
      // Line breaks of any kind come back as one: section 3.4 knows `\\n` alone.
      const clean = (text: string) => text.replace(/\r\n|\r/g, '\n')
      const text = textOf('vcard', [person('ada@m.example', { 'first-name': name, phone }, ['x,y', 'z'])])
      for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
      const card = new ICAL.Component(ICAL.parse(text) as never)
      const read = (property: string) => card.getFirstPropertyValue(property)
      expect([read('version'), read('email')]).toEqual(['4.0', 'ada@m.example'])
      expect(card.getFirstProperty('categories')!.getValues()).toEqual(['x,y', 'z'])
      expect(read('fn')).toBe(clean(name) || 'ada@m.example')
      if (phone !== '') expect(read('x-askbox-phone')).toBe(clean(phone))
    }),
  )
})

test('JSON Lines are an object a line, whatever stands in it', () => {
  const text = textOf('json-lines', [person('a@m.example', { phone: 'l1\nl2' }), person('b@m.example', {}, ['x'])])
  expect(
    text
      .trimEnd()
      .split('\n')
      .map((line) => JSON.parse(line) as unknown),
  ).toEqual([
    {
      email: 'a@m.example',
      values: { 'first-name': '', phone: 'l1\nl2' },
      tags: [],
      status: 'confirmed',
      joinedAt: '2026-03-01T10:00:00.000Z',
    },
    expect.objectContaining({ email: 'b@m.example', tags: ['x'] }),
  ])
})

test('messages as a table: an outside reader finds each text as it was written, and no cell is a formula', () => {
  const written = fc.record({
    email: fc.emailAddress().map((typed) => ({ typed, compared: typed.toLowerCase() })),
    subject: anyValue,
    text: anyValue,
    answers: fc.array(fc.record({ label: fc.constantFrom('Name', '=Town'), answer: anyValue }), { maxLength: 1 }),
    page: fc.constantFrom('', 'https://hill.example/about'),
  })
  fc.assert(
    fc.property(fc.array(fc.option(written), { maxLength: 6 }), (all) => {
      const messages = all.map(
        (personal, n) => ({ n, at: '2026-03-01T10:00:00.000Z', joins: n % 2 === 0, personal }) as SentMessage,
      )
      const [head, ...rows] = parse(messagesFile(messages), { bom: true }) as string[][]
      const kept = all.filter((one) => one !== null)
      expect(rows.map(([, from, subject, text]) => [from, subject, text].map((cell) => plainCell(cell!)))).toEqual(
        kept.map(({ email, subject, text }) => [email.typed, subject, text]),
      )
      for (const [at, { answers }] of kept.entries())
        for (const { label, answer } of answers)
          expect(plainCell(rows[at]![head!.map(plainCell).indexOf(label)]!)).toBe(answer)
      for (const cell of [head!, ...rows].flat()) expect(safeCell(plainCell(cell))).toBe(cell)
    }),
  )
})
